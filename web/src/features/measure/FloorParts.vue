<script setup lang="ts">
import { computed } from 'vue'
import type { FloorLine, FloorPart, Point } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { newId } from '../job/blank'
import { distance } from '../../drawing/figures'
import { useSession } from '../../session/session'
import PickField from '../../fields/PickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import EntryHead from '../shelf/EntryHead.vue'
import FigureButton from '../../fields/FigureButton.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'

const desk = useDesk()
const session = useSession()
const parts = computed(() => desk.surface.value.floor.parts ?? [])
const lines = computed(() => desk.surface.value.floor.lines ?? [])
const takeoff = computed(() => desk.surfacePlan.value?.takeoff)

type Length = 'run' | 'height' | 'width' | 'tread' | 'riser' | 'nosing' | 'return'
type Count = 'count' | 'sides'
interface Shape {
  words: string
  lengths: Partial<Record<Length, string>>
  counts?: Partial<Record<Count, string>>
  start: Partial<FloorPart>
}
const CM = 0.01
const shapes: Record<FloorPart['kind'], Shape> = {
  cove: {
    words: 'Cove base',
    lengths: { height: 'Height up the wall', run: 'Run, 0 for all round', return: 'Length of a return' },
    counts: { count: 'Returns' },
    start: { height: 10 * CM },
  },
  stairs: {
    words: 'Stairs',
    lengths: { width: 'Width', tread: 'Tread', riser: 'Riser', nosing: 'Nosing' },
    counts: { count: 'Steps', sides: 'Exposed sides' },
    start: { count: 3, width: 120 * CM, tread: 28 * CM, riser: 17 * CM },
  },
  ramp: {
    words: 'Ramp',
    lengths: { run: 'Length on plan', height: 'Rise', width: 'Width' },
    start: { run: 300 * CM, height: 25 * CM, width: 150 * CM },
  },
  threshold: {
    words: 'Threshold',
    lengths: { run: 'Run', width: 'Width' },
    start: { run: 100 * CM, width: 20 * CM },
  },
  upstand: {
    words: 'Upstand or stem wall',
    lengths: { run: 'Run', height: 'Height' },
    start: { run: 400 * CM, height: 30 * CM },
  },
}
const lineWords: Record<FloorLine['kind'], string> = {
  crack: 'Crack',
  'saw-joint': 'Saw joint, to fill',
  'moving-joint': 'Joint that moves, to leave open',
}

const offered = {
  ...Object.fromEntries(Object.entries(shapes).map(([kind, s]) => [kind, s.words])),
  ...lineWords,
}
function add(kind: string): void {
  desk.editSurface('add part', (s) => {
    if (kind in shapes) {
      const part = kind as FloorPart['kind']
      s.floor.parts = [
        ...(s.floor.parts ?? []),
        { id: newId(), name: shapes[part].words, kind: part, ...shapes[part].start },
      ]
    } else {
      const line = kind as FloorLine['kind']
      s.floor.lines = [
        ...(s.floor.lines ?? []),
        {
          id: newId(),
          name: lineWords[line].split(',')[0] ?? '',
          kind: line,
          length: 1,
          width: 0.006,
          depth: 0.02,
        },
      ]
    }
  })
}

function changePart(id: string, field: string, by: (part: FloorPart) => void): void {
  desk.editSurface(`${id} ${field}`, (s) => {
    const part = s.floor.parts?.find((p) => p.id === id)
    if (part) by(part)
  })
}
function changeLine(id: string, field: string, by: (line: FloorLine) => void): void {
  desk.editSurface(`${id} ${field}`, (s) => {
    const line = s.floor.lines?.find((l) => l.id === id)
    if (line) by(line)
  })
}
function run(path: Point[]): number {
  return path.slice(1).reduce((sum, p, i) => sum + distance(path[i] ?? p, p), 0)
}
function partFields(p: FloorPart): (Field | false)[] {
  const { counts = {}, lengths } = shapes[p.kind]
  return [
    ...Object.entries(counts).map(([key, label]): Field => ({
      as: 'number',
      label,
      value: p[key as Count] ?? 0,
      whole: true,
      least: 0,
      most: key === 'sides' ? 2 : undefined,
      take: (n) => changePart(p.id, key, (part) => (part[key as Count] = n)),
    })),
    ...Object.entries(lengths).map(([key, label]): Field => ({
      as: 'quantity',
      kind: 'length',
      label,
      value: p[key as Length] ?? 0,
      take: (v) => changePart(p.id, key, (part) => (part[key as Length] = v)),
    })),
    p.kind === 'ramp' && {
      as: 'tick',
      label: 'inside the outline',
      value: p.onFloor,
      take: (on) => changePart(p.id, 'on floor', (part) => (part.onFloor = on)),
    },
  ]
}
function lineFields(l: FloorLine): Field[] {
  return (['length', 'width', 'depth'] as const).map((key) => {
    const drawn = key === 'length' ? l.path : undefined
    return {
      as: 'quantity',
      kind: 'length',
      label: drawn ? 'Length as drawn' : `${key[0]?.toUpperCase()}${key.slice(1)}`,
      value: drawn ? run(drawn) : (l[key] ?? 0),
      positive: true,
      locked: !!drawn,
      take: (v) => changeLine(l.id, key, (line) => (line[key] = v)),
    }
  })
}
function remove(id: string): void {
  desk.editSurface('remove part', (s) => {
    s.floor.parts = s.floor.parts?.filter((p) => p.id !== id)
    s.floor.lines = s.floor.lines?.filter((l) => l.id !== id)
  })
}
/** The working of a part; parts without measures have none yet. */
function working(part: FloorPart) {
  return takeoff.value?.partWorkings?.find((w) => w.title === (part.name || shapes[part.kind].words))
}
const filler = computed(() => (takeoff.value?.filler ?? 0) - (takeoff.value?.hollows ?? 0))
</script>

<template>
  <FoldPanel
    class="parts"
    :open="parts.length + lines.length > 0"
    data-test="parts"
    title="Edges, steps, ramps, cracks and joints"
  >
    <PickField
      v-if="session.mayEdit"
      label="Add an edge, a step or a crack"
      none="choose …"
      :options="offered"
      @update:model-value="add"
    />
    <ul class="entries">
      <li v-for="p in parts" :key="p.id" :data-test="`part-${p.kind}`">
        <EntryHead
          :label="shapes[p.kind].words"
          :name="p.name"
          @rename="(n) => changePart(p.id, 'name', (part) => (part.name = n))"
          @remove="remove(p.id)"
        >
          <FigureButton v-if="working(p)" :workings="[working(p)!]" class="figure">
            {{ session.format('area', working(p)?.result.si ?? 0) }}
          </FigureButton>
        </EntryHead>
        <FieldGrid :fields="partFields(p)" :columns="3" />
      </li>
      <li v-for="l in lines" :key="l.id" :data-test="`line-${l.kind}`">
        <div class="row">
          <strong class="grow">{{ lineWords[l.kind] }}</strong>
          <v-btn
            v-if="session.mayEdit"
            size="small"
            variant="text"
            :aria-label="`Remove ${l.name}`"
            @click="remove(l.id)"
            >Remove</v-btn
          >
        </div>
        <FieldGrid :fields="lineFields(l)" :columns="3" />
      </li>
    </ul>
    <p v-if="filler > 1e-9" class="small" data-test="filler">
      To fill cracks and joints: <span class="figure">{{ session.format('volume', filler) }}</span> (length ×
      width × depth)
    </p>
  </FoldPanel>
</template>
