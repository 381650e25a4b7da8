<script setup lang="ts">
import { useDraftKeys } from '../../drawing/useDraftKeys'
import { computed, ref } from 'vue'
import type { Point, Pool } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useDraft } from '../../drawing/useDraft'
import { useGrid } from '../../drawing/useGrid'
import { newId } from '../job/blank'
import { mapPoints, nearestOn, distance } from '../../drawing/figures'
import type { PlanMark, PlanRing } from '../../drawing/plan'
import { useSession } from '../../session/session'
import PickField from '../../fields/PickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import DrawingImport from './DrawingImport.vue'
import GivenArea from './GivenArea.vue'
import GridPick from '../../drawing/GridPick.vue'
import LadderPick from './LadderPick.vue'
import MeasureTotals from './MeasureTotals.vue'
import OutlineEditor from '../../drawing/OutlineEditor.vue'
import PoolFields from './PoolFields.vue'
import PoolParts from './PoolParts.vue'
import QuantityField from '../../fields/QuantityField.vue'
import ShapeFigure from '../../drawing/ShapeFigure.vue'
import WallEntry from './WallEntry.vue'

defineProps<{ toolbar: string }>()
const desk = useDesk()
const session = useSession()
const draft = useDraft()
const grid = useGrid()
const importing = ref(false)
const sounding = ref(false)
const depth = ref(1.2)
const pool = computed<Pool>(() => desk.surface.value.pool ?? { form: 'rectangle' })
const free = computed(() => pool.value.form === 'freeform')
const takeoff = computed(() => desk.surfacePlan.value?.takeoff)
const outline = computed(() => pool.value.outline ?? [])
const begun = computed(() => outline.value.length > 0 || (pool.value.length ?? 0) > 0)
const rings = computed<PlanRing[]>(() =>
  outline.value.length > 0
    ? [{ id: 'shell', kind: 'outline', name: '', points: outline.value, measured: true }]
    : [],
)
const marks = computed<PlanMark[]>(() => [
  ...(pool.value.depths ?? []).map((d): PlanMark => ({
    id: d.id,
    kind: 'depth',
    name: session.format('length', d.depth),
    at: d.at,
  })),
  ...(desk.surface.value.layout.exit
    ? [{ id: 'ladder', kind: 'exit', name: 'ladder', at: desk.surface.value.layout.exit } satisfies PlanMark]
    : []),
])
const laddering = ref(false)
const placing = computed(() => {
  if (laddering.value) return 'Click where the ladder stands; Escape ends.'
  return sounding.value
    ? `Click where the depth is ${session.format('length', depth.value)}; Escape ends.`
    : undefined
})
function setLadder(at: Point): void {
  laddering.value = false
  desk.editSurface('ladder', (s) => (s.layout.exit = nearestOn(outline.value, at)))
}
const forms: Record<Pool['form'], string> = {
  rectangle: 'Rectangle',
  l: 'L',
  round: 'Round',
  oval: 'Oval',
  freeform: 'Freeform, by depths at points',
}

function set(label: string, change: (pool: Pool) => void): void {
  desk.editSurface(label, (s) => s.pool && change(s.pool))
}
function chooseForm(form: string): void {
  set('form', (p) => (p.form = form as Pool['form']))
}
function close(): void {
  if (!draft.closable.value) return
  const points = draft.close()
  set('shell drawn', (p) => (p.outline = points))
  sounding.value = true
}
/** Near the wall a depth is one of the wall. */
const NEAR = 0.15
function onWall(at: Point): Point {
  const wall = nearestOn(outline.value, at)
  return distance(wall, at) < NEAR ? wall : at
}
function sound(at: Point): void {
  if (laddering.value) return setLadder(at)
  set(
    'add depth',
    (p) => (p.depths = [...(p.depths ?? []), { id: newId(), at: onWall(at), depth: depth.value }]),
  )
}
function moveDepth(id: string, at: Point): void {
  if (id === 'ladder') return setLadder(at)
  set(`${id} place`, (p) => {
    const d = p.depths?.find((one) => one.id === id)
    if (d) d.at = onWall(at)
  })
}
function setDepth(id: string, value: number): void {
  set(`${id} depth`, (p) => {
    const d = p.depths?.find((one) => one.id === id)
    if (d) d.depth = value
  })
}
function turn(label: string, by: (p: Point) => Point): void {
  desk.editSurface(label, (s) => {
    const p = s.pool
    if (!p) return
    if (s.layout.exit) s.layout.exit = free.value ? by(s.layout.exit) : undefined
    Object.assign(p, mapPoints(p, by))
    if (label === 'mirror' && p.arm) p.arm.mirrored = p.arm.mirrored ? undefined : true
  })
}
useDraftKeys(draft, close, () => (sounding.value = laddering.value = false))
</script>

<template>
  <Teleport defer :to="toolbar">
    <template v-if="session.mayEdit">
      <PickField
        label="Form of the shell"
        :model-value="pool.form"
        :options="forms"
        @update:model-value="chooseForm"
      />
      <template v-if="free">
        <v-btn :disabled="draft.drawing.value" data-test="draw" @click="draft.begin('outline')">
          {{ rings.length > 0 ? 'Redraw outline' : 'Outline the shell' }}
        </v-btn>
        <v-btn :disabled="draft.drawing.value" data-test="import" @click="importing = true"
          >Import a drawing</v-btn
        >
        <v-btn
          :disabled="rings.length === 0 || draft.drawing.value"
          :active="sounding"
          data-test="sound"
          @click="sounding = !sounding"
          >{{ sounding ? 'Depths done' : 'Add depths' }}</v-btn
        >
        <v-btn
          :disabled="rings.length === 0 || draft.drawing.value"
          :active="laddering"
          data-test="place-ladder"
          @click="laddering = !laddering"
          >Place the ladder</v-btn
        >
        <GridPick v-model="grid" />
      </template>
    </template>
  </Teleport>
  <DrawingImport
    v-model="importing"
    what="shell"
    inner="Islands, left out,"
    @take="(outline) => set('import drawing', (p) => (p.outline = outline))"
  />
  <p class="small caution">
    An empty pool: guard against falls, keep two ways out, test the air before anyone works in it, keep mains
    leads away from wet, and have ground water checked before it is drained; an engineer or a permit may be
    needed. Local rules and the data sheets come first.
  </p>
  <div class="halves">
    <div>
      <OutlineEditor
        v-if="free"
        :label="`Plan of ${desk.surface.value.name}`"
        :rings="rings"
        :marks="marks"
        :faults="desk.surfacePlan.value?.faults"
        :draft="draft"
        :grid="grid"
        :placing="placing"
        @ring="(_, points, label) => set(label, (p) => (p.outline = points))"
        @mark="moveDepth"
        @place="sound"
        @close="close"
      />
      <ShapeFigure v-else-if="takeoff?.figures?.length" :takeoff="takeoff" :name="desk.surface.value.name" />
      <p v-else class="quiet empty">
        The shell is drawn here as soon as it has a length, a width and a depth.
      </p>
      <div v-if="session.mayEdit && (free || pool.form === 'l')" class="row mt-2">
        <v-btn size="small" @click="turn('mirror', (p) => ({ x: -p.x, y: p.y }))">Mirror</v-btn>
        <v-btn v-if="free" size="small" @click="turn('turn', (p) => ({ x: -p.y, y: p.x }))"
          >Turn by 90°</v-btn
        >
      </div>
    </div>
    <div class="facts">
      <WallEntry
        v-if="draft.drawing.value"
        :draft="draft"
        words="The top edge, side after side"
        @close="close"
      />
      <template v-else>
        <MeasureTotals v-if="takeoff" :takeoff="takeoff" title="Wetted area" around="Around the top edge" />
        <p v-else-if="begun" class="quiet">The area is not valid yet; see above what is missing or wrong.</p>
        <p v-else class="quiet">
          Enter the shell as measured. All depths are measured down from the top edge of the wall.
        </p>
        <FoldPanel v-if="free" :open="(pool.depths ?? []).length > 0 || sounding" title="Depths at points">
          <p class="small quiet">Measure along every break of the floor, and at the corners of the shell.</p>
          <QuantityField
            v-if="session.mayEdit"
            v-model="depth"
            kind="length"
            label="Depth of the next point"
            positive
          />
          <ol class="depths">
            <li v-for="(d, i) in pool.depths ?? []" :key="d.id">
              <QuantityField
                kind="length"
                :label="`Depth ${i + 1}`"
                :model-value="d.depth"
                :disabled="!session.mayEdit"
                positive
                @update:model-value="setDepth(d.id, $event)"
              />
              <v-btn
                v-if="session.mayEdit"
                size="small"
                variant="text"
                :aria-label="`Remove depth ${i + 1}`"
                @click="set('remove depth', (p) => (p.depths = p.depths?.filter((one) => one.id !== d.id)))"
                >Remove</v-btn
              >
            </li>
          </ol>
        </FoldPanel>
        <PoolFields />
        <LadderPick v-if="begun && !free" />
        <PoolParts v-if="begun" />
        <GivenArea v-if="!begun" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.empty {
  display: grid;
  place-items: center;
  min-height: 260px;
  border: 1px dashed var(--line);
  text-align: center;
  padding: 0 60px;
}
.caution {
  border-left: 5px solid var(--warn);
  padding: 4px 0 4px 10px;
  margin-bottom: 12px;
}
.depths {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  margin-top: 10px;
}
.depths li {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
}
</style>
