<script setup lang="ts">
import { computed } from 'vue'
import type { Job } from '../../api/client'
import { useDesk } from '../job/useEditor'
import FieldGrid from '../../fields/FieldGrid.vue'
import { dayTime } from '../../fields/clock'
import type { Field } from '../../fields/grid'
import { standings } from '../../fields/standings'
import PailFilling from './PailFilling.vue'

/** How warm the parts come to the mixing place, and where the pail stands. */
type Mixing = NonNullable<Job['mixing']>
const desk = useDesk()
const USUAL_OPEN = 60
const USUAL_DRUM = { volume: 0.08, mass: 120 }
const MOST_DRILLS = 20
const mixing = computed<Mixing>(() => desk.file.value.job.mixing ?? {})
const from = computed(() => desk.plan.value.slab)
const slab = computed(() => from.value.parts)
/** On what a temperature rests that nobody entered. */
const basis = (at: string | undefined): string =>
  at ? `read ${dayTime(at, desk.plan.value.zone)}` : 'as the slab'

/** What cools a mix; a card counts on nothing of it. */
const cooled: Record<string, boolean> = { shade: true, wind: true, water: true, ice: true }

function set(label: string, by: Partial<Mixing>): void {
  desk.editor.edit(`mixing ${label}`, (f) => {
    const next = { ...f.job.mixing, ...by }
    f.job.mixing = Object.values(next).some((v) => v !== undefined) ? next : undefined
  })
}
function warmth(label: string, key: 'a' | 'b' | 'air', as: string, otherwise: number): Field {
  const own = mixing.value[key]
  return {
    as: 'quantity',
    kind: 'temperature',
    label,
    told: own ? '' : as,
    value: own?.value ?? otherwise,
    take: (v) => set(key, { [key]: { value: v, source: 'own-test' } }),
  }
}
const wets = computed(() =>
  desk.file.value.job.surfaces.some((s) => s.coats.some((c) => c.amount.basis === 'by-stone')),
)
function drum(key: 'volume' | 'mass', label: string): Field {
  const own = mixing.value.drum
  return {
    as: 'quantity',
    kind: key,
    label,
    told: own ? '' : 'common practice',
    value: (own ?? USUAL_DRUM)[key],
    take: (v) => set('drum', { drum: v ? { ...(own ?? USUAL_DRUM), [key]: v } : undefined }),
  }
}
const fields = computed<Field[]>(() => [
  warmth('Part A temperature', 'a', basis(from.value.partsAt), slab.value),
  warmth('Part B temperature', 'b', 'same as part A', mixing.value.a?.value ?? slab.value),
  warmth('Air at the mixing place', 'air', basis(from.value.airAt), from.value.air),
  {
    as: 'quantity',
    kind: 'span',
    label: 'Pail carrying time',
    value: mixing.value.carry ?? 0,
    take: (v) => set('carry', { carry: v || undefined }),
  },
  {
    as: 'quantity',
    kind: 'span',
    label: 'Staging time per batch',
    told: mixing.value.open === undefined ? 'whole kits 1 min, measured 3 min' : '',
    value: mixing.value.open ?? USUAL_OPEN,
    take: (v) => set('open', { open: v }),
  },
  {
    as: 'number',
    label: 'Mixers in parallel',
    value: mixing.value.drills ?? 1,
    whole: true,
    least: 1,
    most: MOST_DRILLS,
    take: (n) => set('drills', { drills: n }),
  },
  ...(wets.value
    ? [drum('mass', 'Stones the mixer turns, mass'), drum('volume', 'Stones the mixer turns, loose volume')]
    : []),
  {
    as: 'pick',
    label: 'Bucket stands',
    told: cooled[mixing.value.standing ?? ''] ? 'no card counts on it' : '',
    value: mixing.value.standing,
    options: standings,
    none: 'in the air',
    take: (v) => set('standing', { standing: (v || undefined) as Mixing['standing'] }),
  },
])
</script>

<template>
  <FieldGrid :fields="fields" :columns="2" data-test="mixing" />
  <PailFilling />
</template>
