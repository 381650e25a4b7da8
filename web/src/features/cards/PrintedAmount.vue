<script setup lang="ts">
import { computed } from 'vue'
import type { Product } from '../../api/client'
import { figureWords } from '../shelf/kinds'
import PickField from '../../fields/PickField.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** The amount of a coat as the sheet prints it. */
type Printed = NonNullable<Product['printed']>
const props = defineProps<{ modelValue?: Printed; name?: string }>()
const emit = defineEmits<{ 'update:modelValue': [printed: Printed | undefined] }>()
const named = computed(() => props.name ?? 'Printed amount')
const bases = {
  'wet-film': 'wet film',
  'dry-film': 'dry film',
  spread: 'spread rate',
  'mass-per-area': 'mass per area',
}
const kinds = {
  'wet-film': 'film',
  'dry-film': 'film',
  spread: 'spread',
  'mass-per-area': 'coverage',
} as const
const usual = { 'wet-film': 0.0003, 'dry-film': 0.0002, spread: 5000, 'mass-per-area': 0.4 }
</script>

<template>
  <div class="pair">
    <PickField
      :label="`${named} as`"
      :model-value="modelValue?.basis ?? ''"
      :options="bases"
      :none="name ? undefined : 'a range of films only'"
      @update:model-value="
        emit(
          'update:modelValue',
          $event
            ? { basis: $event as Printed['basis'], value: usual[$event as Printed['basis']] }
            : undefined,
        )
      "
    />
    <QuantityField
      v-if="modelValue"
      :kind="kinds[modelValue.basis]"
      :label="named"
      :model-value="modelValue.value"
      positive
      @update:model-value="emit('update:modelValue', { ...modelValue, value: $event })"
    />
    <PickField
      v-if="modelValue?.basis === 'spread' || modelValue?.basis === 'mass-per-area'"
      :label="`${named} is`"
      :model-value="modelValue.figure ?? ''"
      :options="figureWords"
      none="not stated"
      @update:model-value="
        emit('update:modelValue', { ...modelValue, figure: ($event || undefined) as Printed['figure'] })
      "
    />
  </div>
</template>
