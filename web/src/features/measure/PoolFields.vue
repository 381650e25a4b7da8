<script setup lang="ts">
import { computed } from 'vue'
import type { Pool } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import TickField from '../../fields/TickField.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'

/** The measures of a shell, those that its form has. */
const desk = useDesk()
const session = useSession()
const pool = computed<Pool>(() => desk.surface.value.pool ?? { form: 'rectangle' })
/** One length of the shell: what it is called, its value, and where it is kept. */
function measure(
  label: string,
  value: number | undefined,
  keep: (pool: Pool, value: number) => void,
  more: { positive?: boolean; told?: string } = {},
): Field {
  const take = (v: number): void =>
    desk.editSurface(label, (s) => {
      if (!s.pool) return
      keep(s.pool, v)
      s.given = undefined
    })
  return { as: 'quantity', kind: 'length', label, value, take, ...more }
}
const must = { positive: true }
const shaped = computed(() => pool.value.form !== 'freeform')
const straight = computed(() => pool.value.form === 'rectangle' || pool.value.form === 'l')
const shell = computed<(Field | false)[]>(() => {
  const p = pool.value
  if (!shaped.value) return []
  const round = p.form === 'round'
  return [
    measure(round ? 'Diameter' : 'Length, shallow to deep end', p.length, (q, v) => (q.length = v), must),
    !round && measure('Width', p.width, (q, v) => (q.width = v), must),
    measure('Depth at the shallow end', p.shallow, (q, v) => (q.shallow = v), must),
    measure('Depth at the break', p.break, (q, v) => (q.break = v || undefined), {
      told: p.break ? undefined : 'as shallow end',
    }),
    measure('Depth at the deep end', p.deep, (q, v) => (q.deep = v || undefined), {
      told: p.deep ? undefined : 'as at the break',
    }),
    measure('Shallow floor, on plan', p.flatRun ?? 0, (q, v) => (q.flatRun = v)),
    !p.hopper &&
      measure('Slope, on plan', p.slopeRun, (q, v) => (q.slopeRun = v || undefined), {
        told: p.slopeRun ? undefined : 'to the deep end',
      }),
  ]
})
const hopper = computed<Field[]>(() => {
  const h = pool.value.hopper
  if (!h || !straight.value) return []
  const put = (change: (hopper: NonNullable<Pool['hopper']>, v: number) => void) => (q: Pool, v: number) => {
    if (q.hopper) change(q.hopper, v)
  }
  return [
    measure(
      'Pad, along the pool',
      h.length,
      put((x, v) => (x.length = v)),
      must,
    ),
    measure(
      'Pad, across',
      h.width,
      put((x, v) => (x.width = v)),
      must,
    ),
    measure(
      'Pad to the deep end wall',
      h.fromEnd,
      put((x, v) => (x.fromEnd = v)),
    ),
  ]
})
const arm = computed<Field[]>(() => {
  const a = pool.value.arm
  if (pool.value.form !== 'l') return []
  const put = (change: (arm: NonNullable<Pool['arm']>, v: number) => void) => (q: Pool, v: number) => {
    q.arm ??= { at: 0, width: 0, out: 0 }
    change(q.arm, v)
  }
  return [
    measure(
      'Arm, from the shallow end',
      a?.at ?? 0,
      put((x, v) => (x.at = v)),
    ),
    measure(
      'Arm, its width',
      a?.width,
      put((x, v) => (x.width = v)),
      must,
    ),
    measure(
      'Arm, reaching out',
      a?.out,
      put((x, v) => (x.out = v)),
      must,
    ),
  ]
})
const edge = computed<Field[]>(() => {
  const p = pool.value
  return [
    measure('Water below the top edge', p.water ?? 0, (q, v) => (q.water = v)),
    measure('Bare band below the top edge', p.band ?? 0, (q, v) => (q.band = v)),
    measure('Coping coated, width', p.coping ?? 0, (q, v) => (q.coping = v)),
  ]
})
const groups = computed(() => [
  { name: 'shell', fields: shell.value },
  { name: 'hopper', fields: hopper.value },
  { name: 'arm', fields: arm.value },
  { name: 'edge', fields: edge.value },
])

function toggleHopper(): void {
  desk.editSurface('hopper', (s) => {
    if (s.pool) s.pool.hopper = s.pool.hopper ? undefined : { length: 0, width: 0, fromEnd: 0 }
  })
}
</script>

<template>
  <div class="groups">
    <template v-for="g in groups" :key="g.name">
      <FieldGrid v-if="g.fields.length > 0" :fields="g.fields" :columns="3" />
      <TickField
        v-if="g.name === 'shell' && straight"
        label="A hopper: a pad in the deep end with slopes from all sides"
        data-test="hopper"
        :model-value="!!pool.hopper"
        :disabled="!session.mayEdit"
        @update:model-value="toggleHopper"
      />
    </template>
  </div>
</template>

<style scoped>
.groups {
  display: grid;
  gap: 12px;
}
</style>
