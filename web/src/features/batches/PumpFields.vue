<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import { computed } from 'vue'
import type { Job } from '../../api/client'
import PickField from '../../fields/PickField.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** The profile of a pair of pumps: what a stroke gives, and what ten of them weighed. */
type Pumps = NonNullable<NonNullable<Job['mixing']>['pumps']>
const props = defineProps<{ pumps?: Pumps; disabled?: boolean }>()
const emit = defineEmits<{ 'update:pumps': [pumps: Pumps | undefined] }>()
const USUAL_STROKE = 30e-6
const MOST_PRIMING = 50
const kinds = { equal: 'plain: every stroke the same', ratio: 'metered: one stroke of each is the ratio' }

function build(built: string): void {
  emit(
    'update:pumps',
    built ? { a: USUAL_STROKE, b: USUAL_STROKE, ...props.pumps, built: built as Pumps['built'] } : undefined,
  )
}
function set(by: Partial<Pumps>): void {
  if (props.pumps) emit('update:pumps', { ...props.pumps, ...by })
}
function prime(event: Event): void {
  const n = Math.round(Number((event.target as HTMLInputElement).value))
  if (Number.isFinite(n)) set({ priming: Math.max(0, Math.min(MOST_PRIMING, n)) || undefined })
}
const strokes = computed(() => [
  { key: 'a', ten: 'tenA', name: 'A' } as const,
  { key: 'b', ten: 'tenB', name: 'B' } as const,
])
</script>

<template>
  <div class="triple mt-2" data-test="pumps">
    <PickField
      label="Pumps"
      :model-value="pumps?.built ?? ''"
      :options="kinds"
      none="none"
      @update:model-value="build"
    />
    <template v-if="pumps">
      <template v-for="s in strokes" :key="s.key">
        <QuantityField
          kind="volume"
          :label="`A stroke of ${s.name} gives`"
          :model-value="pumps[s.key]"
          :disabled="disabled"
          positive
          @update:model-value="set({ [s.key]: $event })"
        />
        <QuantityField
          kind="mass"
          :label="`Ten strokes of ${s.name} weighed`"
          told="wins over what a stroke is said to give"
          :model-value="pumps[s.ten] ?? 0"
          :disabled="disabled"
          @update:model-value="set({ [s.ten]: $event || undefined })"
        />
      </template>
      <TextField
        label="Priming strokes of each"
        type="number"
        min="0"
        :max="MOST_PRIMING"
        :model-value="pumps.priming ?? 0"
        :disabled="disabled"
        @change="prime"
      />
    </template>
  </div>
</template>
