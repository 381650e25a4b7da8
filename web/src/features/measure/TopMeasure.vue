<script setup lang="ts">
import { useDraftKeys } from '../../drawing/useDraftKeys'
import { computed, ref } from 'vue'
import type { Point, TopEdge, TopPiece } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useDraft } from '../../drawing/useDraft'
import { useGrid } from '../../drawing/useGrid'
import { newId } from '../job/blank'
import { boxAround, mapPoints, rectangle } from '../../drawing/figures'
import type { PlanMark, PlanRing } from '../../drawing/plan'
import { useSession } from '../../session/session'
import PickField from '../../fields/PickField.vue'
import DrawingImport from './DrawingImport.vue'
import GivenArea from './GivenArea.vue'
import GridPick from '../../drawing/GridPick.vue'
import MeasureTotals from './MeasureTotals.vue'
import OutlineEditor from '../../drawing/OutlineEditor.vue'
import TopEdges from './TopEdges.vue'
import TopPieceRow from './TopPieceRow.vue'
import WallEntry from './WallEntry.vue'

defineProps<{ toolbar: string }>()
const desk = useDesk()
const session = useSession()
const draft = useDraft()
const grid = useGrid(true)
const importing = ref(false)
const pick = ref<TopEdge['kind'] | 'wall'>('exposed')
const top = computed(() => desk.surface.value.top ?? { pieces: [] })
const takeoff = computed(() => desk.surfacePlan.value?.takeoff)
const picks: Record<TopEdge['kind'] | 'wall', string> = {
  exposed: 'an exposed edge',
  splashback: 'a splashback',
  waterfall: 'a waterfall end',
  wall: 'a wall or joint',
}
const rings = computed<PlanRing[]>(() =>
  top.value.pieces.flatMap((p) => [
    {
      id: p.id,
      kind: 'outline',
      name: p.name,
      points: p.outline,
      measured: true,
      edges: new Map((p.edges ?? []).map((e) => [e.side - 1, e.kind])),
    } satisfies PlanRing,
    ...(p.cutouts ?? []).map(
      (c) =>
        ({ id: c.id, kind: 'hole', name: c.name, points: c.outline, measured: false }) satisfies PlanRing,
    ),
  ]),
)
const marks = computed<PlanMark[]>(() =>
  (takeoff.value?.strips ?? []).map((s, i) => ({
    id: `strip-${i}`,
    kind: 'strip',
    name: session.format('length', s.width),
    at: s.at,
    fixed: true,
  })),
)

const SAMPLE = { length: 2, depth: 0.6, gap: 0.2 }
/** The piece whose fields are open: the one added last, else the first. */
const chosen = ref('')
function addPiece(outline: Point[], cutouts: TopPiece['cutouts'] = undefined): void {
  chosen.value = newId()
  desk.editSurface('add piece', (s) => {
    s.given = undefined
    s.top?.pieces.push({ id: chosen.value, name: `Piece ${s.top.pieces.length + 1}`, outline, cutouts })
  })
}
/** An imported piece stands beside what is there. */
function take(outline: Point[], inner: { name: string; outline: Point[] }[]): void {
  const box = boxAround(top.value.pieces.flatMap((p) => p.outline))
  const dx = box ? box.right + SAMPLE.gap : 0
  const beside = (ring: Point[]): Point[] => mapPoints(ring, (p) => ({ x: p.x + dx, y: p.y }))
  addPiece(
    beside(outline),
    inner.map((c, i) => ({ id: newId(), name: c.name || `Cut-out ${i + 1}`, outline: beside(c.outline) })),
  )
}
function addRectangle(): void {
  const box = boxAround(top.value.pieces.flatMap((p) => p.outline))
  addPiece(rectangle(box ? box.right + SAMPLE.gap : 0, box?.bottom ?? 0, SAMPLE.length, SAMPLE.depth))
}
function close(): void {
  if (draft.closable.value) addPiece(draft.close())
}
function moveRing(id: string, points: Point[], label: string): void {
  desk.editSurface(`${id} ${label}`, (s) => {
    for (const p of s.top?.pieces ?? []) {
      if (p.id === id) {
        if (points.length !== p.outline.length) p.edges = []
        p.outline = points
      }
      for (const c of p.cutouts ?? []) if (c.id === id) c.outline = points
    }
  })
}
const SPLASH = 0.1
const FALL = 0.86
function setEdge(piece: string, side: number, kind: TopEdge['kind'] | 'wall'): void {
  desk.editSurface(`${piece} edge`, (s) => {
    const p = s.top?.pieces.find((one) => one.id === piece)
    if (!p) return
    const others = (p.edges ?? []).filter((e) => e.side !== side)
    const height = kind === 'splashback' ? SPLASH : FALL
    if (kind === 'wall') p.edges = others
    else
      p.edges = [...others, { side, kind, ...(kind === 'exposed' ? {} : { height }) }].sort(
        (a, b) => a.side - b.side,
      )
  })
}
function picked(id: string, side: number): void {
  const piece = top.value.pieces.find((p) => p.id === id)
  if (!piece) return
  const now = piece.edges?.find((e) => e.side === side + 1)?.kind
  setEdge(id, side + 1, now === pick.value ? 'wall' : pick.value)
}
/** Turned round, the sides keep their numbers; mirrored they run the other way round. */
function turn(label: string, by: (p: Point) => Point): void {
  desk.editSurface(label, (s) => (s.top = s.top && mapPoints(s.top, by)))
}
useDraftKeys(draft, close)
</script>

<template>
  <Teleport defer :to="toolbar">
    <template v-if="session.mayEdit">
      <v-btn data-test="add-piece" :disabled="draft.drawing.value" @click="addRectangle">Add a piece</v-btn>
      <v-btn :disabled="draft.drawing.value" @click="draft.begin('outline')">Draw a piece</v-btn>
      <v-btn :disabled="draft.drawing.value" data-test="import" @click="importing = true"
        >Import a drawing</v-btn
      >
      <PickField
        v-if="rings.length > 0"
        v-model="pick"
        label="What clicking a side makes it"
        :options="picks"
      />
      <GridPick v-model="grid" />
    </template>
  </Teleport>
  <DrawingImport v-model="importing" what="piece" inner="Cut-outs" @take="take" />
  <div class="halves">
    <div>
      <OutlineEditor
        :label="`Plan of ${desk.surface.value.name}`"
        :rings="rings"
        :marks="marks"
        :faults="desk.surfacePlan.value?.faults"
        :draft="draft"
        :grid="grid"
        :side-pick="session.mayEdit ? `Click a side to make it ${picks[pick]}.` : undefined"
        @ring="moveRing"
        @side="picked"
        @close="close"
      />
      <p class="small legend">
        <span class="key exposed" /> exposed edge <span class="key splashback" /> splashback
        <span class="key waterfall" /> waterfall end <span class="ring" /> narrow beside a cut-out: pour there
        on purpose
      </p>
      <div v-if="session.mayEdit && rings.length > 0" class="row mt-2">
        <v-btn size="small" @click="turn('mirror', (p) => ({ x: -p.x, y: p.y }))">Mirror</v-btn>
        <v-btn size="small" @click="turn('turn', (p) => ({ x: -p.y, y: p.x }))">Turn by 90°</v-btn>
      </div>
      <TopEdges v-if="rings.length > 0" class="mt-3" />
    </div>
    <div class="facts">
      <WallEntry v-if="draft.drawing.value" :draft="draft" words="A piece, side after side" @close="close" />
      <template v-else>
        <MeasureTotals v-if="takeoff" :takeoff="takeoff" title="Area to coat" around="Around the pieces" />
        <p v-else-if="rings.length > 0" class="quiet">
          The area is not valid until the pieces are corrected. The drawing is not changed.
        </p>
        <p v-else class="quiet">
          Add the pieces of the top as rectangles or draw them. Where two runs meet in a corner, let them
          overlap: the corner counts once.
        </p>
        <TopPieceRow
          v-for="(p, i) in top.pieces"
          :key="p.id"
          :piece="p"
          :open="chosen ? chosen === p.id : i === 0"
          @edge="setEdge"
        />
        <GivenArea v-if="rings.length === 0" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.legend {
  margin-top: 6px;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
}
.key {
  width: 26px;
  border-top: 6px solid var(--cure);
}
.key.splashback {
  border-top: 6px dashed #7a4d9b;
}
.key.waterfall {
  border-top: 9px solid #b8862d;
}
.ring {
  width: 12px;
  height: 12px;
  border: 3px dashed var(--warn);
  border-radius: 50%;
}
</style>
