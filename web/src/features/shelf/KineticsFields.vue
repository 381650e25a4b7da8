<script setup lang="ts">
import { computed } from 'vue'
import type { Kinetics, Source } from '../../api/client'
import FoldPanel from '../../fields/FoldPanel.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import { sourceWords } from '../../fields/sources'

/** How a mix reacts: its chemistry's usual parameters, from memory, or its own. */
const props = defineProps<{ modelValue?: Kinetics; usual?: Kinetics }>()
const emit = defineEmits<{ 'update:modelValue': [value: Kinetics | undefined] }>()
const parameters = [
  { key: 'a1', label: 'A1, 1/s' },
  { key: 'e1', label: 'E1, J/mol' },
  { key: 'a2', label: 'A2, 1/s' },
  { key: 'e2', label: 'E2, J/mol' },
  { key: 'm', label: 'order m' },
  { key: 'n', label: 'order n' },
  { key: 'heat', label: 'heat of reaction, J/kg' },
  { key: 'cp', label: 'heat capacity, J/(kg·K)' },
  { key: 'usable', label: 'degree of cure at end of use' },
  { key: 'gel', label: 'degree of cure at gel' },
] as const

function set(by: Partial<Kinetics>): void {
  if (props.modelValue) emit('update:modelValue', { ...props.modelValue, ...by })
}
const fields = computed<Field[]>(() => [
  ...parameters.map(({ key, label }): Field => ({
    as: 'number',
    label,
    value: props.modelValue?.[key],
    take: (n) => set({ [key]: n }),
  })),
  {
    as: 'pick',
    label: 'Source of the kinetics',
    value: props.modelValue?.source ?? 'assumed',
    options: sourceWords,
    take: (v) => set({ source: v as Source }),
  },
])
</script>

<template>
  <FoldPanel data-test="kinetics">
    <template #title>
      Cure kinetics: {{ modelValue ? 'own values' : 'typical of its chemistry, from memory' }}
    </template>
    <p class="small quiet">
      dα/dt = (k₁ + k₂·αᵐ)·(1 − α)ⁿ, kᵢ = Aᵢ·exp(−Eᵢ/RT). The rates are scaled to reproduce the sheet's pot
      life; the parameters set how the rate changes with temperature and how much heat is released.
    </p>
    <v-btn
      v-if="!modelValue"
      size="small"
      :disabled="!usual"
      data-test="own-kinetics"
      @click="emit('update:modelValue', usual ? { ...usual, source: 'assumed' } : undefined)"
      >Enter own values</v-btn
    >
    <template v-else>
      <FieldGrid :fields="fields" :columns="3" />
      <v-btn size="small" variant="text" @click="emit('update:modelValue', undefined)"
        >Remove own values</v-btn
      >
    </template>
  </FoldPanel>
</template>
