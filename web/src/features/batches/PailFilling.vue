<script setup lang="ts">
import { computed } from 'vue'
import type { Job } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import FoldPanel from '../../fields/FoldPanel.vue'
import PumpFields from './PumpFields.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'

/** How a pail is filled: by marks, on a scale, or by pumps. */
type Mixing = NonNullable<Job['mixing']>
const desk = useDesk()
const session = useSession()
const bucket = computed(() => desk.file.value.job.bucket)
const mixing = computed<Mixing>(() => desk.file.value.job.mixing ?? {})
const dimensions = [
  { key: 'bottom', label: 'Inner diameter, bottom' },
  { key: 'top', label: 'Inner diameter, brim' },
  { key: 'height', label: 'Inner height' },
] as const
const USUAL_PAIL = { bottom: 0.26, top: 0.3, height: 0.32 }
const told = computed(() =>
  [
    bucket.value.pail ? 'marks by height' : '',
    bucket.value.tare ? `pail of ${session.format('mass', bucket.value.tare)}` : '',
    mixing.value.scale ? `scale in ${session.format('mass', mixing.value.scale)}` : '',
    mixing.value.pumps ? (mixing.value.pumps.built === 'ratio' ? 'metered pumps' : 'plain pumps') : '',
  ].filter(Boolean),
)

/** The first measure brings the others of a usual pail, to be overtyped. */
function measured(key: 'bottom' | 'top' | 'height', metres: number): void {
  desk.editor.edit(`pail ${key}`, (f) => {
    f.job.bucket.pail = { ...(f.job.bucket.pail ?? USUAL_PAIL), [key]: metres }
  })
}
function set(by: Partial<Mixing>): void {
  desk.editor.edit(`mixing ${Object.keys(by).join()}`, (f) => (f.job.mixing = { ...f.job.mixing, ...by }))
}
const fields = computed<Field[]>(() => [
  ...dimensions.map((d): Field => ({
    as: 'quantity',
    kind: 'length',
    label: d.label,
    told: 'inside of the pail, for marks by height',
    value: bucket.value.pail?.[d.key],
    positive: true,
    take: (v) => measured(d.key, v),
  })),
  {
    as: 'quantity',
    kind: 'mass',
    label: 'Empty pail weight',
    told: 'only where the scale is not tared with it',
    value: bucket.value.tare ?? 0,
    take: (v) => desk.editor.edit('tare', (f) => (f.job.bucket.tare = v || undefined)),
  },
  {
    as: 'quantity',
    kind: 'mass',
    label: 'Smallest step of the scale',
    told: 'readings are rounded to it',
    value: mixing.value.scale ?? 0,
    take: (v) => set({ scale: v || undefined }),
  },
])
</script>

<template>
  <FoldPanel class="small mt-2" data-test="pail">
    <template #title>Marks, scale and pumps{{ told.length ? `: ${told.join(', ')}` : '' }}</template>
    <FieldGrid :fields="fields" :columns="3">
      <div>
        <v-btn
          v-if="bucket.pail && session.mayEdit"
          size="small"
          variant="text"
          @click="desk.editor.edit('pail', (f) => (f.job.bucket.pail = undefined))"
          >Remove the heights</v-btn
        >
      </div>
    </FieldGrid>
    <PumpFields :pumps="mixing.pumps" @update:pumps="set({ pumps: $event })" />
  </FoldPanel>
</template>
