<script setup lang="ts">
import { computed } from 'vue'
import type { Job } from '../../api/client'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'

/** The profile of a pair of pumps: what a stroke gives, and what ten of them weighed. */
type Pumps = NonNullable<NonNullable<Job['mixing']>['pumps']>
const props = defineProps<{ pumps?: Pumps; open?: boolean; coat?: number }>()
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
const strokes = [
  { key: 'a', ten: 'tenA', name: 'A' },
  { key: 'b', ten: 'tenB', name: 'B' },
] as const
const fields = computed<Field[]>(() => {
  const p = props.pumps
  const built: Field = {
    as: 'pick',
    label: props.coat ? `Pumps of coat ${props.coat}` : 'Pumps',
    value: p?.built,
    options: kinds,
    none: props.coat ? 'as the job' : 'none',
    take: build,
  }
  if (!p) return [built]
  return [
    built,
    ...strokes.flatMap((s): Field[] => [
      {
        as: 'quantity',
        kind: 'volume',
        label: `A stroke of ${s.name} gives`,
        value: p[s.key],
        positive: true,
        take: (v) => set({ [s.key]: v }),
      },
      {
        as: 'quantity',
        kind: 'mass',
        label: `Ten strokes of ${s.name} weighed`,
        told: 'overrides the volume per stroke',
        value: p[s.ten] ?? 0,
        take: (v) => set({ [s.ten]: v || undefined }),
      },
    ]),
    {
      as: 'number',
      label: 'Priming strokes of each',
      value: p.priming ?? 0,
      whole: true,
      least: 0,
      most: MOST_PRIMING,
      take: (n) => set({ priming: n || undefined }),
    },
  ]
})
</script>

<template>
  <FieldGrid :fields="fields" :columns="3" :open="open" data-test="pumps" />
</template>
