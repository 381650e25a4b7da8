<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Point } from '../api/client'
import type { Draft } from './useDraft'
import { usePanZoom } from './usePanZoom'
import { usePlanHand, type DraggedCorner } from './usePlanHand'
import { usePlanSides } from './usePlanSides'
import { boxAround, type Box } from './figures'
import type { PlanLine, PlanMark, PlanRing } from './plan'
import { useSession } from '../session/session'
import DraftLine from './DraftLine.vue'
import PlanGrid from './PlanGrid.vue'
import PlanMarks from './PlanMarks.vue'
import PlanZoom from './PlanZoom.vue'
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
const session = useSession()
const frame = ref<HTMLElement | null>(null)
const svg = ref<SVGSVGElement | null>(null)
const { width: measured } = useElementSize(frame)
const width = computed(() => Math.max(measured.value, 240))
const dragged = ref<DraggedCorner | null>(null)

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

const { shownSides, edges, shownCorners, names, kept } = usePlanSides(shapes, view, width, HEIGHT)

const { cursor, carried, busy, down, move, pressed, grab, carry, drop, cancel, insert, remove } = usePlanHand(
  props,
  emit,
  { svg, view, corners: shownCorners, dragged, pan },
)

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
      'Drag the background to move the plan.'
    )
  }
  if (props.draft.open.value)
    return 'Click point after point; Enter ends the line. Type a length for an exact one.'
  return props.draft.closable.value
    ? 'Click the first corner, or press Enter, to close. Type a length for an exact wall.'
    : 'Click corner after corner, or type the length of the wall under the cursor. Shift keeps walls square to the grid.'
})
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
        <PlanGrid :view="view" :width="width" :height="HEIGHT" :step="grid" />
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
      <PlanZoom :moved="moved" @zoom="zoomBy" @whole="whole" />
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
  font-size: 13px;
  text-anchor: middle;
  pointer-events: none;
}
.name {
  font-size: 13px;
  font-weight: 700;
}
.ring-name {
  font-size: 13px;
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
