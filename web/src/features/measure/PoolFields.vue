<script setup lang="ts">
import { computed } from 'vue'
import type { Pool } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../people/session'
import QuantityField from '../../fields/QuantityField.vue'

/** The measures of a shell, those that its form has. */
const desk = useDesk()
const session = useSession()
const pool = computed<Pool>(() => desk.surface.value.pool ?? { form: 'rectangle' })
interface Field {
  label: string
  value: number | undefined
  positive?: boolean
  hint?: string
  set: (pool: Pool, value: number) => void
}
const shaped = computed(() => pool.value.form !== 'freeform')
const straight = computed(() => pool.value.form === 'rectangle' || pool.value.form === 'l')
const shell = computed<Field[]>(() => {
  const p = pool.value
  if (!shaped.value) return []
  const round = p.form === 'round'
  return [
    {
      label: round ? 'Diameter' : 'Length, shallow to deep end',
      value: p.length,
      positive: true,
      set: (q, v) => (q.length = v),
    },
    ...(round
      ? []
      : [{ label: 'Width', value: p.width, positive: true, set: (q: Pool, v: number) => (q.width = v) }]),
    { label: 'Depth at the shallow end', value: p.shallow, positive: true, set: (q, v) => (q.shallow = v) },
    {
      label: 'Depth at the break',
      value: p.break,
      hint: p.break ? undefined : 'as shallow end',
      set: (q, v) => (q.break = v || undefined),
    },
    {
      label: 'Depth at the deep end',
      value: p.deep,
      hint: p.deep ? undefined : 'as at the break',
      set: (q, v) => (q.deep = v || undefined),
    },
    { label: 'Shallow floor, on plan', value: p.flatRun ?? 0, set: (q, v) => (q.flatRun = v) },
    ...(p.hopper
      ? []
      : [
          {
            label: 'Slope, on plan',
            value: p.slopeRun,
            hint: p.slopeRun ? undefined : 'to the deep end',
            set: (q: Pool, v: number) => (q.slopeRun = v || undefined),
          },
        ]),
  ]
})
const hopper = computed<Field[]>(() => {
  const h = pool.value.hopper
  if (!h || !straight.value) return []
  return [
    {
      label: 'Pad, along the pool',
      value: h.length,
      positive: true,
      set: (q, v) => q.hopper && (q.hopper.length = v),
    },
    { label: 'Pad, across', value: h.width, positive: true, set: (q, v) => q.hopper && (q.hopper.width = v) },
    {
      label: 'Pad to the deep end wall',
      value: h.fromEnd,
      set: (q, v) => q.hopper && (q.hopper.fromEnd = v),
    },
  ]
})
const arm = computed<Field[]>(() => {
  const a = pool.value.arm
  if (pool.value.form !== 'l') return []
  const put = (q: Pool, change: (arm: NonNullable<Pool['arm']>) => void): void => {
    q.arm ??= { at: 0, width: 0, out: 0 }
    change(q.arm)
  }
  return [
    { label: 'Arm, from the shallow end', value: a?.at ?? 0, set: (q, v) => put(q, (x) => (x.at = v)) },
    { label: 'Arm, its width', value: a?.width, positive: true, set: (q, v) => put(q, (x) => (x.width = v)) },
    { label: 'Arm, reaching out', value: a?.out, positive: true, set: (q, v) => put(q, (x) => (x.out = v)) },
  ]
})
const edge = computed<Field[]>(() => {
  const p = pool.value
  return [
    { label: 'Water below the top edge', value: p.water ?? 0, set: (q, v) => (q.water = v) },
    { label: 'Bare band below the top edge', value: p.band ?? 0, set: (q, v) => (q.band = v) },
    { label: 'Coping coated, width', value: p.coping ?? 0, set: (q, v) => (q.coping = v) },
  ]
})
const groups = computed(() => [
  { name: 'shell', fields: shell.value },
  { name: 'hopper', fields: hopper.value },
  { name: 'arm', fields: arm.value },
  { name: 'edge', fields: edge.value },
])

function put(field: Field, value: number): void {
  desk.editSurface(field.label, (s) => {
    if (!s.pool) return
    field.set(s.pool, value)
    s.given = undefined
  })
}
function toggleHopper(): void {
  desk.editSurface('hopper', (s) => {
    if (s.pool) s.pool.hopper = s.pool.hopper ? undefined : { length: 0, width: 0, fromEnd: 0 }
  })
}
</script>

<template>
  <div class="groups">
    <template v-for="g in groups" :key="g.name">
      <div v-if="g.fields.length > 0" class="pair">
        <QuantityField
          v-for="f in g.fields"
          :key="f.label"
          kind="length"
          :label="f.label"
          :told="f.hint"
          :model-value="f.value"
          :positive="f.positive"
          :disabled="!session.mayEdit"
          @update:model-value="put(f, $event)"
        />
      </div>
      <label v-if="g.name === 'shell' && straight" class="small">
        <input
          type="checkbox"
          :checked="!!pool.hopper"
          :disabled="!session.mayEdit"
          data-test="hopper"
          @change="toggleHopper"
        />
        A hopper: a pad in the deep end with slopes from all sides
      </label>
    </template>
  </div>
</template>

<style scoped>
.groups {
  display: grid;
  gap: 12px;
}
</style>
