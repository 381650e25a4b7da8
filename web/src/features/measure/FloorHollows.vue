<script setup lang="ts">
import { computed } from 'vue'
import type { Hollow } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { newId } from '../job/blank'
import { useSession } from '../../session/session'
import PickField from '../../fields/PickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import EntryHead from '../shelf/EntryHead.vue'
import FigureButton from '../../fields/FigureButton.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'

/** Holes, low places, steps between slabs and fillets: what is filled beside cracks and joints. */
const desk = useDesk()
const session = useSession()
const floor = computed(() => desk.surface.value.floor)
const hollows = computed(() => floor.value.hollows ?? [])
const takeoff = computed(() => desk.surfacePlan.value?.takeoff)
const MM = 0.001
type Measure = 'length' | 'width' | 'depth'
interface Shape {
  words: string
  measures: Partial<Record<Measure, string>>
  start: Partial<Hollow> & { depth: number }
}
const shapes: Record<Hollow['kind'], Shape> = {
  pit: {
    words: 'Hole or divot',
    measures: { length: 'Length', width: 'Width', depth: 'Depth' },
    start: { length: 100 * MM, width: 100 * MM, depth: 20 * MM },
  },
  low: {
    words: 'Low place',
    measures: { length: 'Length', width: 'Width', depth: 'Deepest' },
    start: { length: 1000 * MM, width: 600 * MM, depth: 5 * MM },
  },
  fall: {
    words: 'Step or fall, feathered out',
    measures: { length: 'Length along the step', width: 'Feathered over', depth: 'Height of the step' },
    start: { length: 1000 * MM, width: 300 * MM, depth: 5 * MM },
  },
  fillet: {
    words: 'Fillet of mortar along the wall',
    measures: { length: 'Run, 0 for all round', depth: 'Radius' },
    start: { depth: 30 * MM },
  },
}
const offered = Object.fromEntries(Object.entries(shapes).map(([kind, s]) => [kind, s.words]))
const zones = computed(() => (floor.value.zones ?? []).map((z) => ({ id: z.id, name: z.name })))

function add(kind: string): void {
  const shape = kind as Hollow['kind']
  desk.editSurface('add what is filled', (s) => {
    s.floor.hollows = [
      ...(s.floor.hollows ?? []),
      { id: newId(), name: shapes[shape].words.split(',')[0] ?? '', kind: shape, ...shapes[shape].start },
    ]
  })
}
function change(id: string, field: string, by: (h: Hollow) => void): void {
  desk.editSurface(`${id} ${field}`, (s) => {
    const found = s.floor.hollows?.find((h) => h.id === id)
    if (found) by(found)
  })
}
function remove(id: string): void {
  desk.editSurface('remove what is filled', (s) => {
    s.floor.hollows = s.floor.hollows?.filter((h) => h.id !== id)
  })
}
function fields(h: Hollow): (Field | false)[] {
  return [
    h.kind === 'low' &&
      zones.value.length > 0 && {
        as: 'pick',
        label: 'Zone of the plan',
        value: h.zone,
        none: 'by length and width',
        options: Object.fromEntries(zones.value.map((z) => [z.id, z.name])),
        take: (id) => change(h.id, 'zone', (x) => (x.zone = id || undefined)),
      },
    ...Object.entries(shapes[h.kind].measures)
      .filter(([key]) => !h.zone || key === 'depth')
      .map(([key, label]): Field => ({
        as: 'quantity',
        kind: 'length',
        label,
        value: h[key as Measure] ?? 0,
        take: (v) => change(h.id, key, (x) => (x[key as Measure] = v)),
      })),
    h.kind === 'pit' && {
      as: 'number',
      label: 'How many alike',
      value: h.count ?? 1,
      whole: true,
      least: 1,
      take: (n) => change(h.id, 'count', (x) => (x.count = n && n > 1 ? n : undefined)),
    },
  ]
}
/** The working of a hollow; one without measures has none yet. */
const working = (h: Hollow) =>
  takeoff.value?.fillWorkings?.find((w) => w.title === (h.name || shapes[h.kind].words))
</script>

<template>
  <FoldPanel
    class="parts"
    :open="hollows.length > 0"
    data-test="hollows"
    title="Holes, low places, steps and fillets to fill"
  >
    <PickField
      v-if="session.mayEdit"
      label="Add what is filled"
      none="choose …"
      :options="offered"
      @update:model-value="add"
    />
    <ul class="entries">
      <li v-for="h in hollows" :key="h.id" :data-test="`hollow-${h.kind}`">
        <EntryHead
          :label="shapes[h.kind].words"
          :name="h.name"
          @rename="(n) => change(h.id, 'name', (x) => (x.name = n))"
          @remove="remove(h.id)"
        >
          <FigureButton v-if="working(h)" :workings="[working(h)!]" class="figure">
            {{ session.format('volume', working(h)?.result.si ?? 0) }}
          </FigureButton>
        </EntryHead>
        <FieldGrid :fields="fields(h)" :columns="3" />
      </li>
    </ul>
    <p v-if="takeoff?.hollows" class="small" data-test="hollows-volume">
      To fill them: <span class="figure">{{ session.format('volume', takeoff.hollows) }}</span>, with 10% more
      bought. The filler is the one of the preparation.
    </p>
  </FoldPanel>
</template>
