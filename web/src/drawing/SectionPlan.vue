<script setup lang="ts">
import { computed } from 'vue'
import type { CoatPlan, Point, Surface, SurfacePlan } from '../api/client'
import { boxAround, fit, path } from './figures'
import { useDrawnWidth } from './useDrawnWidth'
import { useSession } from '../session/session'

const props = defineProps<{
  surface: Surface
  plan: SurfacePlan
  coat: CoatPlan
  width?: number
  height?: number
  /** Joins can be dragged. */
  movable?: boolean
  /** Joins that stay where they are, by the section before them. */
  pinned?: Set<number>
}>()
const emit = defineEmits<{ shift: [after: number, by: number] }>()
const session = useSession()
/** How high it is by its width. */
const SHAPE = 0.67
const measured = useDrawnWidth(640)
const width = computed(() => props.width ?? measured.width.value)
const height = computed(() => props.height ?? Math.round(width.value * SHAPE))
const view = computed(() => {
  const box = boxAround(props.surface.floor.outline)
  return fit(box ?? { left: 0, bottom: 0, right: 1, top: 1 }, width.value, height.value, 52)
})
const rings = computed<Point[][]>(() => [
  props.surface.floor.outline,
  ...props.surface.floor.holes.map((h) => h.outline),
])
const cuts = computed(() =>
  (props.coat.cuts ?? []).map((cut) => {
    const v = view.value
    const lines: { d: string }[] = []
    for (let i = 0; i + 1 < cut.marks.length; i += 2) {
      const a = cut.marks[i]?.at
      const b = cut.marks[i + 1]?.at
      if (a && b)
        lines.push({
          d: `M${v.x(a).toFixed(1)} ${v.y(a).toFixed(1)}L${v.x(b).toFixed(1)} ${v.y(b).toFixed(1)}`,
        })
    }
    return { cut, lines }
  }),
)
/** The way in which a join moves on, from the section before it to the one after. */
function onward(after: number): Point {
  const cut = props.coat.cuts?.find((c) => c.after === after)
  const [a, b] = [cut?.marks[0]?.at, cut?.marks[1]?.at]
  const from = props.coat.sections?.find((s) => s.number === after)?.label
  const to = props.coat.sections?.find((s) => s.number === cut?.with[0])?.label
  if (!a || !b || !from || !to) return { x: 0, y: 0 }
  const length = Math.hypot(b.x - a.x, b.y - a.y) || 1
  const n = { x: -(b.y - a.y) / length, y: (b.x - a.x) / length }
  const sign = n.x * (to.x - from.x) + n.y * (to.y - from.y) < 0 ? -1 : 1
  return { x: sign * n.x, y: sign * n.y }
}
let held: { after: number; x: number; y: number } | undefined
function grab(event: PointerEvent, after: number): void {
  if (!props.movable) return
  held = { after, x: event.clientX, y: event.clientY }
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function pull(event: PointerEvent): void {
  if (!held) return
  const box = (event.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect()
  const metre = view.value.scale * ((box?.width ?? width.value) / width.value)
  const way = onward(held.after)
  const by = ((event.clientX - held.x) * way.x - (event.clientY - held.y) * way.y) / metre
  held = { ...held, x: event.clientX, y: event.clientY }
  emit('shift', held.after, by)
}
const NUDGE = 0.1
function nudge(event: KeyboardEvent, after: number): void {
  const way = onward(after)
  const steps: Record<string, Point> = {
    ArrowRight: { x: 1, y: 0 },
    ArrowLeft: { x: -1, y: 0 },
    ArrowUp: { x: 0, y: 1 },
    ArrowDown: { x: 0, y: -1 },
  }
  const step = steps[event.key]
  if (!props.movable || !step) return
  event.preventDefault()
  const along = step.x * way.x + step.y * way.y
  emit('shift', after, (along === 0 ? 0 : Math.sign(along)) * NUDGE)
}
const ROOM = 74
const TIGHT = 26
/** Numbers where they fit: with the area in a wide section, alone and staggered in narrow ones. */
const labels = computed(() =>
  (props.coat.sections ?? []).map((s) => {
    const v = view.value
    const around = boxAround(s.rings.flat()) ?? { left: 0, right: 0, bottom: 0, top: 0 }
    const reach = Math.min(around.right - around.left, around.top - around.bottom) * v.scale
    const aside = reach < TIGHT ? (s.number % 2 === 0 ? 15 : -15) : 0
    const sideways = around.right - around.left < around.top - around.bottom
    return {
      number: s.number,
      area: session.format('area', s.area),
      roomy: reach >= ROOM,
      x: v.x(s.label) + (sideways ? 0 : aside),
      y: v.y(s.label) + (sideways ? aside : 0),
    }
  }),
)
const DEGREE = Math.PI / 180
const arrow = computed(() => {
  const angle = (props.plan.course?.direction ?? 0) * DEGREE
  return `rotate(${-angle / DEGREE})`
})
</script>

<template>
  <svg
    ref="drawn"
    :viewBox="`0 0 ${width} ${height}`"
    class="plan sections"
    :role="movable ? 'group' : 'img'"
    :aria-label="`Sections of coat ${coat.number}`"
    data-test="section-plan"
  >
    <defs>
      <pattern
        :id="`hatch-${coat.id}`"
        width="9"
        height="9"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <rect width="9" height="9" :fill="coat.color" fill-opacity=".62" />
        <rect width="2" height="9" fill="#12201d" fill-opacity=".34" />
      </pattern>
    </defs>
    <path
      v-for="s in coat.sections ?? []"
      :key="s.number"
      :d="path(s.rings, view)"
      :fill="s.number % 2 === 0 ? `url(#hatch-${coat.id})` : coat.color"
      :fill-opacity="s.number % 2 === 0 ? 1 : 0.85"
      fill-rule="evenodd"
    />
    <path :d="path(rings, view)" class="walls" fill-rule="evenodd" />
    <g v-for="c in cuts" :key="c.cut.after">
      <path
        v-for="l in c.lines"
        :key="l.d"
        :d="l.d"
        class="cut"
        :class="{ pinned: pinned?.has(c.cut.after) }"
      />
      <path
        v-if="movable"
        :d="c.lines.map((l) => l.d).join('')"
        class="handle"
        tabindex="0"
        role="slider"
        :aria-label="`Joint after section ${c.cut.after}`"
        :aria-valuenow="c.cut.after"
        :data-test="`join-${c.cut.after}`"
        @pointerdown="grab($event, c.cut.after)"
        @pointermove="pull"
        @pointerup="held = undefined"
        @keydown="nudge($event, c.cut.after)"
      />
      <g v-for="m in c.cut.marks" :key="`${m.hole}-${m.side}-${m.along}`">
        <path :d="`M${view.x(m.at) - 5} ${view.y(m.at) - 5}l10 10m0 -10l-10 10`" class="mark" />
      </g>
    </g>
    <g
      v-for="l in labels"
      :key="`n${l.number}`"
      class="label"
      :transform="`translate(${l.x.toFixed(1)} ${l.y.toFixed(1)})`"
    >
      <template v-if="l.roomy">
        <rect x="-34" y="-19" width="68" height="38" rx="3" />
        <text y="-2" class="number">{{ l.number }}</text>
        <text y="13" class="area">{{ l.area }}</text>
      </template>
      <template v-else>
        <circle r="12" />
        <text y="5" class="number">{{ l.number }}</text>
      </template>
    </g>
    <g v-for="(p, i) in surface.floor.outline" :key="`c${i}`" class="corner">
      <circle :cx="view.x(p)" :cy="view.y(p)" r="9" />
      <text :x="view.x(p)" :y="view.y(p) + 3.5">{{ i + 1 }}</text>
    </g>
    <g v-if="plan.exit" class="exit">
      <circle :cx="view.x(plan.exit.at)" :cy="view.y(plan.exit.at)" r="11" />
      <text :x="view.x(plan.exit.at)" :y="view.y(plan.exit.at) + 27">exit</text>
    </g>
    <g v-if="!plan.course?.pieces" :transform="`translate(${width - 34} 34)`" class="way">
      <circle r="20" />
      <path d="M-12 0H9M3 -6L11 0L3 6" :transform="arrow" />
    </g>
  </svg>
</template>

<style scoped>
.sections {
  width: 100%;
  display: block;
  background: var(--paper);
  border: 1px solid var(--line);
}
.walls {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
}
.cut {
  stroke: #12201d;
  stroke-width: 2.2;
  stroke-dasharray: 10 5;
}
.pinned {
  stroke-width: 4;
  stroke-dasharray: none;
}
.handle {
  stroke: transparent;
  stroke-width: 18;
  fill: none;
  cursor: move;
  touch-action: none;
}
.handle:focus-visible {
  stroke: color-mix(in srgb, var(--cure) 45%, transparent);
}
.mark {
  stroke: var(--stop);
  stroke-width: 3;
}
.label rect,
.label circle {
  fill: #fbfcfb;
  stroke: #12201d;
}
text {
  text-anchor: middle;
  font-size: 13px;
  fill: var(--ink);
}
.label text {
  fill: #12201d;
}
.number {
  font-weight: 760;
  font-size: 15px;
}
.area {
  font-size: 13px;
}
.corner text {
  font-size: 13px;
  font-weight: 700;
}
.way circle {
  fill: var(--paper);
  stroke: var(--ink);
}
.way path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
}
</style>
