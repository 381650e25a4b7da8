<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import type { Kinetics, Source } from '../../api/client'
import { sourceWords } from '../../fields/sources'

/** How a mix reacts: its chemistry's usual parameters, from memory, or its own. */
const props = defineProps<{ modelValue?: Kinetics; usual?: Kinetics }>()
const emit = defineEmits<{ 'update:modelValue': [value: Kinetics | undefined] }>()
const fields = [
  { key: 'a1', label: 'A1, 1/s' },
  { key: 'e1', label: 'E1, J/mol' },
  { key: 'a2', label: 'A2, 1/s' },
  { key: 'e2', label: 'E2, J/mol' },
  { key: 'm', label: 'order m' },
  { key: 'n', label: 'order n' },
  { key: 'heat', label: 'heat of reaction, J/kg' },
  { key: 'cp', label: 'heat capacity, J/(kg·K)' },
  { key: 'gel', label: 'share reacted at gel' },
] as const

function set(key: (typeof fields)[number]['key'], event: Event): void {
  const n = Number((event.target as HTMLInputElement).value.replace(',', '.'))
  if (props.modelValue && Number.isFinite(n)) emit('update:modelValue', { ...props.modelValue, [key]: n })
}
</script>

<template>
  <details data-test="kinetics">
    <summary>How it reacts: {{ modelValue ? 'its own parameters' : "its chemistry's, from memory" }}</summary>
    <p class="small quiet">
      dα/dt = (k₁ + k₂·αᵐ)·(1 − α)ⁿ, kᵢ = Aᵢ·exp(−Eᵢ/RT). The rates are scaled so that the sheet's own pot
      life comes out; what matters is how they change with heat, and how much heat there is.
    </p>
    <v-btn
      v-if="!modelValue"
      size="small"
      :disabled="!usual"
      data-test="own-kinetics"
      @click="emit('update:modelValue', usual ? { ...usual, source: 'assumed' } : undefined)"
      >Enter its own</v-btn
    >
    <template v-else>
      <div class="triple">
        <TextField
          v-for="f in fields"
          :key="f.key"
          :label="f.label"
          inputmode="decimal"
          :model-value="modelValue[f.key]"
          @change="set(f.key, $event)"
        />
        <label class="small"
          >Source
          <select
            class="control"
            aria-label="Source of how it reacts"
            :value="modelValue.source ?? 'assumed'"
            @change="
              emit('update:modelValue', {
                ...modelValue,
                source: ($event.target as HTMLSelectElement).value as Source,
              })
            "
          >
            <option v-for="(words, s) in sourceWords" :key="s" :value="s">{{ words }}</option>
          </select></label
        >
      </div>
      <v-btn size="small" variant="text" @click="emit('update:modelValue', undefined)">Leave it out</v-btn>
    </template>
  </details>
</template>
