<script setup lang="ts">
import { useDraftKeys } from '../../drawing/useDraftKeys'
import { useInTurn } from '../../fields/useInTurn'
import { isTyping } from '../../fields/typing'
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { FloorLine, Point } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useDraft, type DraftKind } from '../../drawing/useDraft'
import { useGrid } from '../../drawing/useGrid'
import { newId } from '../job/blank'
import { distance, middle, nearestOn } from '../../drawing/figures'
import type { PlanLine, PlanMark, PlanRing } from '../../drawing/plan'
import { useSession } from '../../session/session'
import PickField from '../../fields/PickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import DrawingImport from './DrawingImport.vue'
import FloorParts from './FloorParts.vue'
import FloorHollows from './FloorHollows.vue'
import GivenArea from './GivenArea.vue'
import GridPick from '../../drawing/GridPick.vue'
import MeasureTotals from './MeasureTotals.vue'
import OutlineEditor from '../../drawing/OutlineEditor.vue'
import PlanThings from './PlanThings.vue'
import QuantityField from '../../fields/QuantityField.vue'
import RoundWall from './RoundWall.vue'
import { useReshape } from './useReshape'
import WaysOut from './WaysOut.vue'
import WallEntry from './WallEntry.vue'

const MM = 0.001
defineProps<{ toolbar: string }>()
const desk = useDesk()
const session = useSession()
const draft = useDraft()
const grid = useGrid()
const { reshape, trouble } = useReshape()
type Place = 'exit' | 'other' | 'mixing' | 'door' | 'drain'
const placing = ref<Place | null>(null)
const lineKind = ref<FloorLine['kind']>('crack')
const importing = ref(false)
const hints: Record<Place, string> = {
  other: 'Click at the wall where another door is; Escape ends.',
  exit: 'Click the wall with the door by which the crew leaves.',
  mixing: 'Click the place where batches are mixed, on the floor or at its edge.',
  door: 'Click the wall in which the door stands.',
  drain: 'Click the middle of the drain.',
}

const floor = computed(() => desk.surface.value.floor)
const takeoff = computed(() => desk.surfacePlan.value?.takeoff)
const outline = computed(() => floor.value.outline)
const measured = computed(() => outline.value.length > 0)
const rings = computed<PlanRing[]>(() =>
  measured.value
    ? [
        { id: 'outline', kind: 'outline', name: '', points: outline.value, measured: true },
        ...(floor.value.zones ?? []).map((z): PlanRing => ({
          id: z.id,
          kind: 'zone',
          name: z.name,
          points: z.outline,
          measured: false,
        })),
        ...floor.value.holes.map((h): PlanRing => ({
          id: h.id,
          kind: 'hole',
          name: h.name,
          points: h.outline,
          measured: false,
        })),
      ]
    : [],
)
const lines = computed<PlanLine[]>(() =>
  (floor.value.lines ?? []).flatMap((l) =>
    l.path ? [{ id: l.id, name: l.name, kind: l.kind, points: l.path }] : [],
  ),
)
const marks = computed<PlanMark[]>(() => [
  ...(floor.value.fittings ?? []).map((f): PlanMark => ({ id: f.id, name: f.name, kind: f.kind, at: f.at })),
  ...(desk.surface.value.survey?.readings ?? []).flatMap((r): PlanMark[] =>
    r.place ? [{ id: r.id, name: '', kind: 'reading', at: r.place, fixed: true }] : [],
  ),
  ...(desk.surfacePlan.value?.exit
    ? [{ id: 'exit', name: 'exit', kind: 'exit', at: desk.surfacePlan.value.exit.at } satisfies PlanMark]
    : []),
  ...(desk.surface.value.layout.others ?? []).map((e, n): PlanMark => ({
    id: `exit-${n}`,
    name: `exit ${n + 2}`,
    kind: 'exit',
    at: e.at,
  })),
  ...(desk.surface.value.layout.mixing
    ? [
        {
          id: 'mixing',
          name: 'mixing',
          kind: 'mixing',
          at: desk.surface.value.layout.mixing,
        } satisfies PlanMark,
      ]
    : []),
])

function begin(kind: DraftKind): void {
  placing.value = null
  draft.begin(kind)
}

function close(): void {
  if (!draft.closable.value) return
  const kind = draft.kind.value
  const walk = draft.walk()
  const points = draft.close()
  desk.editSurface(`${kind} drawn`, (s) => {
    const f = s.floor
    if (kind === 'outline') {
      f.outline = points
      f.walk = walk
      s.given = undefined
    } else if (kind === 'hole')
      f.holes.push({ id: newId(), name: `Column ${f.holes.length + 1}`, outline: points, walk })
    else if (kind === 'zone') {
      const zones = f.zones ?? []
      f.zones = [...zones, { id: newId(), name: `Zone ${zones.length + 1}`, outline: points }]
    } else
      f.lines = [
        ...(f.lines ?? []),
        { id: newId(), name: '', kind: lineKind.value, path: points, width: 6 * MM, depth: 20 * MM },
      ]
  })
}

function take(points: Point[], inner: { name: string; outline: Point[] }[]): void {
  draft.cancel()
  desk.editSurface(`import drawing ${newId()}`, (s) => {
    s.floor.outline = points
    s.floor.walk = undefined
    s.given = undefined
    s.layout.exit = s.layout.mixing = s.layout.others = undefined
    s.floor.holes = inner.map((h, n) => ({
      id: newId(),
      name: h.name || `Column ${n + 1}`,
      outline: h.outline,
    }))
  })
}

const things = computed<[string, string][]>(() => [
  ['exit', 'The exit'],
  ...(desk.surface.value.layout.exit ? ([['other', 'Another exit']] satisfies [string, string][]) : []),
  ['mixing', 'The mixing place'],
  ['door', 'A door'],
  ['drain', 'A drain'],
  ['zone', 'A zone'],
  ['crack', 'A crack'],
  ['saw-joint', 'A saw joint, to fill'],
  ['moving-joint', 'A joint that moves, to leave open'],
])
function putOnPlan(wanted: string): void {
  draft.cancel()
  if (
    wanted === 'exit' ||
    wanted === 'other' ||
    wanted === 'mixing' ||
    wanted === 'door' ||
    wanted === 'drain'
  )
    placing.value = wanted
  else if (wanted === 'zone') begin('zone')
  else if (wanted) {
    lineKind.value = wanted as FloorLine['kind']
    begin('line')
  }
}

function place(at: Point): void {
  const kind = placing.value
  placing.value = null
  if (kind === 'exit') setExit(nearestOn(outline.value, at))
  else if (kind === 'other')
    desk.editSurface(
      'another exit',
      (s) => (s.layout.others = [...(s.layout.others ?? []), { at: nearestOn(outline.value, at) }]),
    )
  else if (kind === 'mixing') setMixing(at)
  else if (kind)
    desk.editSurface(`add ${kind}`, (s) => {
      const all = s.floor.fittings ?? []
      const number = all.filter((f) => f.kind === kind).length + 1
      s.floor.fittings = [
        ...all,
        kind === 'door'
          ? { id: newId(), name: `Door ${number}`, kind, at: nearestOn(outline.value, at), width: 900 * MM }
          : { id: newId(), name: `Drain ${number}`, kind, at, width: 150 * MM },
      ]
    })
}

function setExit(at: Point | undefined): void {
  desk.editSurface('exit', (s) => (s.layout.exit = at))
}

function setMixing(at: Point | undefined): void {
  desk.editSurface('mixing place', (s) => (s.layout.mixing = at))
}

function moveRing(id: string, points: Point[], label: string): void {
  desk.editSurface(`${id} ${label}`, (s) => {
    const ring = [...s.floor.holes, ...(s.floor.zones ?? [])].find((h) => h.id === id)
    const moved = ring ?? s.floor
    moved.outline = points
    if (moved.walk) moved.walk.changed = true
  })
}

function moveMark(id: string, at: Point): void {
  if (id === 'exit') return setExit(nearestOn(outline.value, at))
  if (id === 'mixing') return setMixing(at)
  if (id.startsWith('exit-'))
    return desk.editSurface(`${id} place`, (s) => {
      const other = s.layout.others?.[Number(id.slice('exit-'.length))]
      if (other) other.at = nearestOn(outline.value, at)
    })
  desk.editSurface(`${id} place`, (s) => {
    const f = s.floor.fittings?.find((one) => one.id === id)
    if (f) f.at = f.kind === 'door' ? nearestOn(outline.value, at) : at
  })
}

function exitOnWall(wall: string): void {
  const side = wall === '' ? -1 : Number(wall)
  const a = outline.value[side]
  const b = outline.value[(side + 1) % outline.value.length]
  setExit(a && b ? middle(a, b) : undefined)
}

function setLength(side: number, length: number): void {
  void reshape(`side ${side}`, { op: 'push', wall: side + 1, length })
}

const sides = computed(() =>
  outline.value.map((p, i) => distance(p, outline.value[(i + 1) % outline.value.length] ?? p)),
)
const LISTED = 40
const walls = computed(() =>
  Object.fromEntries(
    sides.value
      .slice(0, LISTED)
      .map((length, i) => [i, `wall ${i + 1}, ${session.format('length', length)}`]),
  ),
)

/** The drawing and what it gives come first, then what is entered beside. */
const standing = useInTurn(4)

// Measuring begins at once: the walk's field is ready, and so is the plan.
if (session.mayEdit && !measured.value && !desk.surface.value.given) begin('outline')

// A figure on someone's word ends the walk that nobody began.
watch(
  () => desk.surface.value.given,
  (given) => {
    if (given && draft.points.value.length === 0) draft.cancel()
  },
)

useDraftKeys(draft, close, () => (placing.value = null))
useEventListener(window, 'keydown', (event) => {
  if (isTyping(event) || event.ctrlKey || event.metaKey || draft.drawing.value) return
  if (event.key.toLowerCase() === 'd' && session.mayEdit) begin(measured.value ? 'hole' : 'outline')
})
</script>

<template>
  <Teleport defer :to="toolbar">
    <template v-if="session.mayEdit && standing > 1">
      <v-btn data-test="draw" :disabled="draft.drawing.value" @click="begin('outline')">
        {{ measured ? 'Redraw outline' : 'Outline this floor' }}
      </v-btn>
      <v-btn :disabled="draft.points.value.length > 0" data-test="import" @click="importing = true"
        >Import a drawing</v-btn
      >
      <v-btn data-test="draw-hole" :disabled="!measured || draft.drawing.value" @click="begin('hole')"
        >Add a column</v-btn
      >
      <PickField
        class="put"
        bare
        label="Put on the plan"
        data-test="put-on-plan"
        none="Put on the plan …"
        :disabled="!measured || draft.drawing.value"
        :options="things"
        @update:model-value="putOnPlan"
      />
      <GridPick v-model="grid" />
    </template>
  </Teleport>
  <DrawingImport v-model="importing" what="floor" inner="Columns and pits" @take="take" />
  <div>
    <div class="halves">
      <div>
        <OutlineEditor
          :label="`Plan of ${desk.surface.value.name}`"
          :rings="rings"
          :lines="lines"
          :marks="marks"
          :faults="desk.surfacePlan.value?.faults"
          :draft="draft"
          :grid="grid"
          :placing="placing ? hints[placing] : undefined"
          @ring="moveRing"
          @mark="moveMark"
          @place="place"
          @close="close"
        />
        <PlanThings v-if="measured && !draft.drawing.value && standing > 3" class="mt-2" />
      </div>
      <div class="facts">
        <template v-if="draft.drawing.value">
          <WallEntry :draft="draft" :origin="outline[0]" @close="close" />
          <GivenArea v-if="!measured && draft.points.value.length === 0" />
        </template>
        <template v-else>
          <MeasureTotals v-if="takeoff" :takeoff="takeoff" title="Area to coat" around="Around the walls" />
          <p v-else-if="measured" class="quiet">
            The area is not valid until the outline is corrected. The drawing is not changed.
          </p>
          <p v-else class="quiet">
            Outline the floor by clicking its corners on the grid, or by typing the walls one after another as
            you walk them.
          </p>
          <FoldPanel v-if="measured && standing > 1" open title="Walls">
            <p v-if="session.mayEdit" class="quiet small">A new length pushes the wall behind it.</p>
            <p v-if="trouble" class="small" role="alert">{{ trouble }}</p>
            <div class="pair">
              <QuantityField
                v-for="(length, i) in sides.slice(0, LISTED)"
                :key="i"
                kind="length"
                :label="`Wall ${i + 1}, from corner ${i + 1}`"
                :model-value="length"
                :disabled="!session.mayEdit"
                positive
                @update:model-value="setLength(i, $event)"
              />
            </div>
            <p v-if="sides.length > LISTED" class="quiet small">
              The first {{ LISTED }} of {{ sides.length }} walls; the rest are moved on the drawing.
            </p>
            <RoundWall v-if="session.mayEdit" />
            <div class="row mt-2 mb-2">
              <template v-if="session.mayEdit">
                <v-btn size="small" @click="reshape('mirror', { op: 'mirror' })">Mirror</v-btn>
                <v-btn size="small" @click="reshape('turn', { op: 'turn' })">Turn by 90°</v-btn>
              </template>
            </div>
            <PickField
              v-if="session.mayEdit"
              class="exit-choice"
              label="Wall with the exit"
              data-test="exit-wall"
              :none="desk.surface.value.layout.exit ? 'where it is marked' : 'no wall yet'"
              :options="walls"
              @update:model-value="exitOnWall"
            />
          </FoldPanel>
          <GivenArea v-if="!measured" />
          <template v-if="takeoff && standing > 2">
            <FloorParts />
            <FloorHollows />
          </template>
          <WaysOut v-if="measured && standing > 2" />
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.exit-choice {
  max-width: 260px;
}
.put {
  width: 190px;
}
</style>
