<script setup lang="ts">
import { useElementSize, useThrottleFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Point } from '../api/client'
import type { Draft } from '../composables/useDraft'
import { usePanZoom } from '../composables/usePanZoom'
import { boxAround, distance, middle, tidy, windsLeft, type Box } from '../lib/figures'
import type { PlanLine, PlanMark, PlanRing } from '../lib/plan'
import { useSession } from '../stores/session'
import DraftLine from './DraftLine.vue'
import PlanMarks from './PlanMarks.vue'
import WallLength from './WallLength.vue'

const props = defineProps<{
  label: string
  rings: PlanRing[]
  lines?: PlanLine[]
  marks?: PlanMark[]
  faults?: Point[]
  draft: Draft
  grid: number
  /** What a click puts down, in words; nothing while absent. */
  placing?: string
  /** What a click on a side does, in words. */
  sidePick?: string
}>()
const emit = defineEmits<{
  ring: [id: string, points: Point[], label: string]
  mark: [id: string, at: Point]
  place: [at: Point]
  side: [id: string, side: number]
  close: []
}>()

const HEIGHT = 430
const MARGIN = 46
const SHOWN = 160
const NEAR = 12
const session = useSession()
const frame = ref<HTMLElement | null>(null)
const svg = ref<SVGSVGElement | null>(null)
const { width: measured } = useElementSize(frame)
const width = computed(() => Math.max(measured.value, 240))
const cursor = ref<Point | null>(null)
const dragged = ref<{ ring: number; corner: number; at: Point } | null>(null)
const carried = ref<{ id: string; at: Point } | null>(null)
const busy = computed(() => props.draft.drawing.value || !!props.placing)

const shapes = computed(() =>
  props.rings.map((ring, r) => ({
    ...ring,
    points: ring.points.map((p, c) =>
      dragged.value?.ring === r && dragged.value.corner === c ? dragged.value.at : p,
    ),
  })),
)
const EMPTY: Box = { left: 0, bottom: 0, right: 16, top: 10 }

/** What the view shows; it stands still while something is drawn or dragged. */
const box = ref<Box>(EMPTY)
watch(
  () => [props.rings, props.draft.drawing.value, dragged.value === null] as const,
  () => {
    if (dragged.value) return
    const around = boxAround(props.rings.flatMap((r) => r.points))
    if (around) box.value = around
    else if (!props.draft.drawing.value) box.value = EMPTY
  },
  { immediate: true },
)
watch(props.draft.points, (points) => {
  const all = boxAround([...points, ...props.rings.flatMap((r) => r.points)])
  if (!all) return
  const b = box.value
  if (all.left < b.left || all.right > b.right || all.bottom < b.bottom || all.top > b.top) {
    box.value = {
      left: Math.min(b.left, all.left),
      right: Math.max(b.right, all.right),
      bottom: Math.min(b.bottom, all.bottom),
      top: Math.max(b.top, all.top),
    }
  }
})
const { view, still, slide, moved, zoomBy, pan, whole, key } = usePanZoom(box, width, HEIGHT, MARGIN)

const gridPaths = computed(() => {
  const v = view.value
  let step = props.grid
  while (step * v.scale < 9) step *= 2
  const a = v.at(0, HEIGHT)
  const b = v.at(width.value, 0)
  const paths = { weak: '', strong: '' }
  for (let i = Math.ceil(a.x / step); i * step <= b.x; i++)
    paths[i % 5 === 0 ? 'strong' : 'weak'] += `M${v.x({ x: i * step, y: 0 }).toFixed(1)} 0V${HEIGHT}`
  for (let i = Math.ceil(a.y / step); i * step <= b.y; i++)
    paths[i % 5 === 0 ? 'strong' : 'weak'] += `M0 ${v.y({ x: 0, y: i * step }).toFixed(1)}H${width.value}`
  return paths
})

function drawn(points: Point[], closed: boolean): string {
  const v = still.value
  const ends = points.map((p) => `${v.x(p).toFixed(1)} ${v.y(p).toFixed(1)}`)
  return points.length === 0 ? '' : `M${ends.join('L')}${closed ? 'Z' : ''}`
}
/** Lines of very many corners are drawn thin, so that the plan still follows the hand. */
const DENSE = 600
const paths = computed(() =>
  shapes.value.map((r) => ({
    id: r.id,
    kind: r.kind,
    d: drawn(r.points, true),
    dense: r.points.length > DENSE,
  })),
)
const linePaths = computed(() => (props.lines ?? []).map((l) => ({ ...l, d: drawn(l.points, false) })))

const sides = computed(() =>
  shapes.value.flatMap((ring, r) => {
    const outward = windsLeft(ring.points) ? 1 : -1
    return ring.points.map((a, i) => {
      const b = ring.points[(i + 1) % ring.points.length] ?? a
      const length = distance(a, b)
      return {
        ring: r,
        id: ring.id,
        side: i,
        a,
        b,
        m: middle(a, b),
        length,
        nx: length > 0 ? ((b.y - a.y) / length) * outward : 0,
        ny: length > 0 ? (-(b.x - a.x) / length) * outward : 0,
        edge: ring.edges?.get(i),
        measured: ring.measured,
      }
    })
  }),
)
function seen(p: Point): boolean {
  const x = view.value.x(p)
  const y = view.value.y(p)
  return x > -NEAR && x < width.value + NEAR && y > -NEAR && y < HEIGHT + NEAR
}
const shownSides = computed(() => {
  const s = view.value.scale
  return sides.value.filter((side) => side.length * s > 40 && seen(side.m)).slice(0, SHOWN)
})
const edges = computed(() => sides.value.filter((s) => s.edge))
/** Corners that stand far enough apart to be held. */
const shownCorners = computed(() => {
  const s = view.value.scale
  const all = sides.value.filter((side, i) => {
    const before = sides.value[i - 1]
    const lone = side.length * s > NEAR || (before?.ring === side.ring && before.length * s > NEAR)
    return lone && seen(side.a)
  })
  return all.length > SHOWN ? [] : all
})

function where(event: PointerEvent | MouseEvent, snap: boolean): Point {
  const at = svg.value?.getBoundingClientRect()
  if (!at) return { x: 0, y: 0 }
  const p = view.value.at(event.clientX - at.left, event.clientY - at.top)
  if (!snap) return p
  const corner =
    busy.value || carried.value
      ? shownCorners.value.find((c) => distance(c.a, p) * view.value.scale < NEAR)
      : undefined
  if (corner) return corner.a
  const snapped = {
    x: tidy(Math.round(p.x / props.grid) * props.grid),
    y: tidy(Math.round(p.y / props.grid) * props.grid),
  }
  const last = props.draft.points.value.at(-1)
  if (props.draft.drawing.value && event.shiftKey && last) {
    return Math.abs(snapped.x - last.x) > Math.abs(snapped.y - last.y)
      ? { x: snapped.x, y: last.y }
      : { x: last.x, y: snapped.y }
  }
  return snapped
}

/** Where the hand went down on the ground of the plan, to move it. */
let panning: { x: number; y: number; id: number } | null = null
let dragging = false

function down(event: PointerEvent): void {
  dragging = false
  if (busy.value && event.button !== 1) return
  panning = { x: event.clientX, y: event.clientY, id: event.pointerId }
}

function move(event: PointerEvent): void {
  cursor.value = where(event, true)
  if (panning && panning.id === event.pointerId) {
    const dx = event.clientX - panning.x
    const dy = event.clientY - panning.y
    if (!dragging && Math.hypot(dx, dy) < 4) return
    if (!dragging) svg.value?.setPointerCapture(event.pointerId)
    dragging = true
    pan(dx, dy)
    panning = { ...panning, x: event.clientX, y: event.clientY }
    return
  }
  if (carried.value) carried.value = { ...carried.value, at: cursor.value }
  if (!dragged.value) return
  dragged.value = { ...dragged.value, at: cursor.value }
  void follow()
}

function pressed(event: MouseEvent): void {
  if (dragging) return
  if (props.placing) {
    emit('place', where(event, true))
    return
  }
  if (!props.draft.drawing.value) return
  const p = where(event, true)
  const first = props.draft.points.value[0]
  const closing = first && props.draft.closable.value && !props.draft.open.value
  if (closing && distance(first, p) * view.value.scale < NEAR) emit('close')
  else props.draft.add(p)
}

function grab(event: PointerEvent, ring: number, corner: number, at: Point): void {
  if (busy.value || !session.mayEdit) return
  event.preventDefault()
  event.stopPropagation()
  svg.value?.setPointerCapture(event.pointerId)
  dragged.value = { ring, corner, at }
}

function carry(event: PointerEvent, mark: PlanMark): void {
  if (busy.value || !session.mayEdit || mark.fixed) return
  event.preventDefault()
  event.stopPropagation()
  svg.value?.setPointerCapture(event.pointerId)
  carried.value = { id: mark.id, at: mark.at }
}

/** Puts the dragged corner into the job. */
function settle(): void {
  const d = dragged.value
  const ring = d && props.rings[d.ring]
  if (!d || !ring) return
  emit(
    'ring',
    ring.id,
    ring.points.map((p, c) => (c === d.corner ? d.at : p)),
    `corner ${d.corner}`,
  )
}
const DRAG_MS = 60
/** The figures follow the hand. */
const follow = useThrottleFn(settle, DRAG_MS)

function drop(): void {
  panning = null
  settle()
  dragged.value = null
  if (carried.value) emit('mark', carried.value.id, carried.value.at)
  carried.value = null
}

function cancel(): void {
  panning = null
  dragged.value = null
  carried.value = null
}

/** A corner set into the middle of a side, ready to be dragged. */
function insert(event: PointerEvent, r: number, side: number, at: Point): void {
  const ring = props.rings[r]
  if (!session.mayEdit || !ring) return
  const snapped = { x: tidy(at.x), y: tidy(at.y) }
  emit('ring', ring.id, ring.points.toSpliced(side + 1, 0, snapped), 'insert corner')
  grab(event, r, side + 1, snapped)
}

function remove(r: number, corner: number): void {
  const ring = props.rings[r]
  if (ring && ring.points.length > 3 && session.mayEdit)
    emit('ring', ring.id, ring.points.toSpliced(corner, 1), 'remove corner')
}

const last = computed(() => props.draft.points.value.at(-1))
/** The direction in which a typed wall goes: towards the cursor. */
const towards = computed(() =>
  last.value && cursor.value
    ? (Math.atan2(cursor.value.y - last.value.y, cursor.value.x - last.value.x) * 180) / Math.PI
    : 0,
)
const hint = computed(() => {
  if (props.placing) return props.placing
  if (!props.draft.drawing.value) {
    const drag = 'Drag a corner to move it, a small mark to add one; double-click a corner to remove it. '
    return (
      (session.mayEdit ? drag : '') +
      (props.sidePick ? `${props.sidePick} ` : '') +
      'Drag the ground to move the plan.'
    )
  }
  if (props.draft.open.value)
    return 'Click point after point; Enter ends the line. Type a length for an exact one.'
  return props.draft.closable.value
    ? 'Click the first corner, or press Enter, to close. Type a length for an exact wall.'
    : 'Click corner after corner, or type the length of the wall under the cursor. Shift keeps walls square to the grid.'
})
const LETTER = 6.6
/** Keeps a label of some words, centred on x, inside the drawing. */
function kept(x: number, words: string): number {
  const half = (words.length * LETTER) / 2 + 3
  return Math.min(width.value - half, Math.max(half, x))
}
/** Outlines are named beside their first corner, what lies in them in its middle, or below where that is too small. */
const names = computed(() =>
  shapes.value.flatMap((r) => {
    const b = boxAround(r.points)
    if (!r.name || !b) return []
    const v = view.value
    const low = { x: b.left, y: b.bottom }
    const m = middle(low, { x: b.right, y: b.top })
    const outside = r.kind === 'outline'
    const tight = (b.right - b.left) * v.scale < r.name.length * LETTER + 12
    const y = outside ? v.y(low) - 12 : tight ? v.y(low) + 20 : v.y(m) + 4
    return [{ id: r.id, kind: r.kind, name: r.name, x: outside ? v.x(low) + 14 : v.x(m), y }]
  }),
)
const shownMarks = computed(() =>
  (props.marks ?? []).map((m) => (carried.value?.id === m.id ? { ...m, at: carried.value.at } : m)),
)
function wheel(event: WheelEvent): void {
  if (!event.ctrlKey) return
  event.preventDefault()
  const at = svg.value?.getBoundingClientRect()
  zoomBy(event.deltaY < 0 ? 1.15 : 1 / 1.15, event.clientX - (at?.left ?? 0), event.clientY - (at?.top ?? 0))
}
</script>

<template>
  <div ref="frame" class="frame" :class="{ drawing: busy }">
    <div
      class="ground"
      role="group"
      tabindex="0"
      :aria-label="`${label}: arrows move it, plus and minus zoom`"
      @keydown="key"
    >
      <svg
        ref="svg"
        :height="HEIGHT"
        :width="width"
        role="img"
        :aria-label="label"
        data-test="outline"
        @pointerdown="down"
        @pointermove="move"
        @pointerup="drop"
        @pointercancel="cancel"
        @pointerleave="cursor = null"
        @wheel="wheel"
        @click="pressed"
      >
        <path :d="gridPaths.weak" class="grid" />
        <path :d="gridPaths.strong" class="grid strong" />
        <g :transform="slide">
          <path v-for="r in paths" :key="r.id" :d="r.d" :class="[r.kind, { dense: r.dense }]" />
          <path v-for="l in linePaths" :key="l.id" :d="l.d" class="joint" :class="l.kind">
            <title>{{ l.name }}</title>
          </path>
          <path
            v-for="e in edges"
            :key="`${e.id}-${e.side}`"
            :d="drawn([e.a, e.b], false)"
            class="edge"
            :class="e.edge"
          />
        </g>
        <g v-for="s in shownSides" :key="`${s.id}-${s.side}`">
          <path
            v-if="sidePick && !busy"
            class="pick-side"
            data-test="side"
            :d="`M${view.x(s.a)} ${view.y(s.a)}L${view.x(s.b)} ${view.y(s.b)}`"
            @click.stop="emit('side', s.id, s.side)"
          />
          <text
            v-if="s.measured && s.length * view.scale > 58"
            class="length"
            :x="kept(view.x(s.m) + s.nx * 22, session.format('length', s.length))"
            :y="view.y(s.m) - s.ny * 16 + 4"
          >
            {{ session.format('length', s.length) }}
          </text>
          <circle
            v-if="session.mayEdit && !busy && !sidePick"
            class="between"
            r="4"
            :cx="view.x(s.m)"
            :cy="view.y(s.m)"
            @pointerdown="insert($event, s.ring, s.side, s.m)"
          />
        </g>
        <g v-for="s in shownCorners" :key="`c${s.id}-${s.side}`">
          <circle
            class="corner"
            :class="{ fixed: !session.mayEdit }"
            :r="s.measured ? 7 : 5"
            :cx="view.x(s.a)"
            :cy="view.y(s.a)"
            @pointerdown="grab($event, s.ring, s.side, s.a)"
            @dblclick="remove(s.ring, s.side)"
          />
          <text v-if="s.measured" class="name" :x="view.x(s.a)" :y="view.y(s.a) + 3.5">{{ s.side + 1 }}</text>
        </g>
        <text v-for="n in names" :key="`n${n.id}`" class="ring-name" :class="n.kind" :x="n.x" :y="n.y">
          {{ n.name }}
        </text>
        <PlanMarks :marks="shownMarks" :view="view" @carry="carry" />
        <g v-for="(p, i) in faults ?? []" :key="`f${i}`" class="fault">
          <circle :cx="view.x(p)" :cy="view.y(p)" r="14" />
        </g>
        <DraftLine v-if="draft.drawing.value" :draft="draft" :view="view" :cursor="cursor" />
        <text v-if="rings.length === 0 && !draft.drawing.value" class="invite" :x="width / 2" :y="HEIGHT / 2">
          Not measured yet
        </text>
      </svg>
    </div>
    <WallLength v-if="draft.drawing.value && last" :draft="draft" :towards="towards" />
    <div class="below">
      <p class="quiet small hint">{{ hint }}</p>
      <div class="zoom">
        <button type="button" class="zoom-button" aria-label="Enlarge the plan" @click="zoomBy(1.25)">
          +
        </button>
        <button type="button" class="zoom-button" aria-label="Make the plan smaller" @click="zoomBy(0.8)">
          −
        </button>
        <button v-if="moved" type="button" class="zoom-button" @click="whole">Whole</button>
      </div>
    </div>
  </div>
</template>

<style scoped>
.frame {
  width: 100%;
  position: relative;
}
.ground {
  overflow: hidden;
}
svg {
  display: block;
  touch-action: none;
  background: var(--paper);
  border: 1px solid var(--line);
  cursor: grab;
}
.drawing svg {
  cursor: crosshair;
}
.below {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  margin-top: 6px;
}
.zoom {
  display: flex;
  flex: none;
  gap: 4px;
}
.zoom-button {
  font: inherit;
  font-weight: 680;
  color: inherit;
  min-width: 34px;
  height: 34px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 3px;
  cursor: pointer;
}
.grid {
  stroke: var(--faint);
  stroke-width: 1;
  fill: none;
}
.grid.strong {
  stroke: var(--line);
  stroke-width: 0.7;
}
path.outline,
path.hole,
path.zone,
.joint,
.edge {
  stroke-linejoin: round;
}
path.outline {
  fill: color-mix(in srgb, var(--cure) 15%, var(--paper));
  stroke: var(--ink);
  stroke-width: 2.4;
}
path.hole {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.6;
}
path.dense {
  stroke-width: 1;
  stroke-linejoin: bevel;
}
path.zone {
  fill: color-mix(in srgb, #b8862d 22%, transparent);
  stroke: #8a6420;
  stroke-width: 1.4;
  stroke-dasharray: 9 4 2 4;
}
.joint {
  fill: none;
  stroke: var(--stop);
  stroke-width: 2;
}
.joint.saw-joint {
  stroke-dasharray: 12 4;
}
.joint.moving-joint {
  stroke: var(--ink);
  stroke-dasharray: 3 3;
}
.edge {
  stroke-width: 6;
  stroke: var(--cure);
}
.edge.splashback {
  stroke: #7a4d9b;
  stroke-dasharray: 4 3;
}
.edge.waterfall {
  stroke: #b8862d;
  stroke-width: 9;
}
.pick-side {
  stroke: transparent;
  stroke-width: 18;
  cursor: pointer;
}
.pick-side:hover {
  stroke: color-mix(in srgb, var(--cure) 35%, transparent);
}
.corner {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.6;
  cursor: grab;
}
.corner:hover {
  fill: #e2a13b;
}
.corner.fixed {
  cursor: default;
}
.between {
  fill: var(--paper);
  stroke: var(--quiet);
  stroke-dasharray: 2 2;
  cursor: copy;
}
text {
  fill: var(--ink);
  font-size: 12.5px;
  text-anchor: middle;
  pointer-events: none;
}
.name {
  font-size: 9.5px;
  font-weight: 700;
}
.ring-name {
  font-size: 11.5px;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
}
.ring-name.outline {
  text-anchor: start;
  font-weight: 640;
  fill: var(--ink);
  stroke-width: 3px;
}
.length {
  font-weight: 620;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.fault circle {
  fill: none;
  stroke: var(--stop);
  stroke-width: 4;
  stroke-dasharray: 5 3;
}
.invite {
  font-size: 18px;
  fill: var(--quiet);
}
.hint {
  margin: 0;
}
</style>
