<script setup lang="ts">
import { useElementSize, useThrottleFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Point } from '../api/client'
import type { Draft } from '../composables/useDraft'
import { useDesk } from '../composables/useEditor'
import { boxAround, distance, fit, middle, nearestOn, path, tidy, windsLeft, type Box } from '../lib/figures'
import { useSession } from '../stores/session'

const props = defineProps<{ draft: Draft; grid: number; exiting: boolean }>()
const emit = defineEmits<{ exit: [at: Point]; close: [] }>()

const HEIGHT = 430
const MARGIN = 46
const desk = useDesk()
const session = useSession()
const frame = ref<HTMLElement | null>(null)
const svg = ref<SVGSVGElement | null>(null)
const { width } = useElementSize(frame)
const cursor = ref<Point | null>(null)
const dragged = ref<{ hole: number; corner: number; at: Point } | null>(null)

const floor = computed(() => desk.surface.value.floor)
const rings = computed<Point[][]>(() =>
  [floor.value.outline, ...floor.value.holes.map((h) => h.outline)].map((ring, r) =>
    ring.map((p, c) => (dragged.value?.hole === r - 1 && dragged.value.corner === c ? dragged.value.at : p)),
  ),
)
const outline = computed(() => rings.value[0] ?? [])
const holes = computed(() => rings.value.slice(1))
const faults = computed(() => desk.surfacePlan.value?.faults ?? [])
const EMPTY: Box = { left: 0, bottom: 0, right: 16, top: 10 }

/** What the view shows; it stands still while something is drawn or dragged. */
const box = ref<Box>(EMPTY)
watch(
  () => [floor.value, props.draft.drawing.value, dragged.value === null] as const,
  () => {
    if (dragged.value) return
    const around = boxAround([...floor.value.outline, ...floor.value.holes.flatMap((h) => h.outline)])
    if (around) box.value = around
    else if (!props.draft.drawing.value) box.value = EMPTY
  },
  { immediate: true },
)
watch(props.draft.points, (points) => {
  const all = boxAround([...points, ...outline.value])
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
const view = computed(() => fit(box.value, Math.max(width.value, 240), HEIGHT, MARGIN))

const gridLines = computed(() => {
  const v = view.value
  let step = props.grid
  while (step * v.scale < 9) step *= 2
  const a = v.at(0, HEIGHT)
  const b = v.at(Math.max(width.value, 240), 0)
  const lines: { d: string; strong: boolean }[] = []
  for (let i = Math.ceil(a.x / step); i * step <= b.x; i++) {
    lines.push({ d: `M${v.x({ x: i * step, y: 0 }).toFixed(1)} 0V${HEIGHT}`, strong: i % 5 === 0 })
  }
  for (let i = Math.ceil(a.y / step); i * step <= b.y; i++) {
    lines.push({ d: `M0 ${v.y({ x: 0, y: i * step }).toFixed(1)}H${width.value}`, strong: i % 5 === 0 })
  }
  return lines
})

function where(event: PointerEvent | MouseEvent, snap: boolean): Point {
  const at = svg.value?.getBoundingClientRect()
  if (!at) return { x: 0, y: 0 }
  const p = view.value.at(event.clientX - at.left, event.clientY - at.top)
  if (!snap) return p
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

function moved(event: PointerEvent): void {
  cursor.value = where(event, true)
  if (!dragged.value) return
  dragged.value = { ...dragged.value, at: cursor.value }
  void follow()
}

function pressed(event: MouseEvent): void {
  if (props.exiting) {
    emit('exit', nearestOn(floor.value.outline, where(event, false)))
    return
  }
  if (!props.draft.drawing.value) return
  const p = where(event, true)
  const first = props.draft.points.value[0]
  if (first && props.draft.closable.value && distance(first, p) * view.value.scale < 12) emit('close')
  else props.draft.add(p)
}

function grab(event: PointerEvent, hole: number, corner: number, at: Point): void {
  if (props.draft.drawing.value || props.exiting || !session.mayEdit) return
  event.preventDefault()
  svg.value?.setPointerCapture(event.pointerId)
  dragged.value = { hole, corner, at }
}

/** Puts the dragged corner into the job. */
function settle(): void {
  const d = dragged.value
  if (!d) return
  desk.editSurface(`corner ${d.hole} ${d.corner}`, (s) => {
    const ring = d.hole < 0 ? s.floor.outline : s.floor.holes[d.hole]?.outline
    if (ring) ring[d.corner] = d.at
  })
}
const DRAG_MS = 60
/** The figures follow the hand. */
const follow = useThrottleFn(settle, DRAG_MS)

function drop(): void {
  settle()
  dragged.value = null
}

/** A corner set into the middle of a side, ready to be dragged. */
function insert(event: PointerEvent, hole: number, side: number, at: Point): void {
  if (!session.mayEdit) return
  const snapped = { x: tidy(at.x), y: tidy(at.y) }
  desk.editSurface('insert corner', (s) => {
    const ring = hole < 0 ? s.floor.outline : s.floor.holes[hole]?.outline
    ring?.splice(side + 1, 0, snapped)
  })
  grab(event, hole, side + 1, snapped)
}

function remove(hole: number, corner: number): void {
  desk.editSurface('remove corner', (s) => {
    const ring = hole < 0 ? s.floor.outline : s.floor.holes[hole]?.outline
    if (ring && ring.length > 3) ring.splice(corner, 1)
  })
}

const sides = computed(() =>
  rings.value.flatMap((ring, r) =>
    ring.map((a, i) => {
      const b = ring[(i + 1) % ring.length] ?? a
      const m = middle(a, b)
      const length = distance(a, b)
      const nx = length > 0 ? (b.y - a.y) / length : 0
      const ny = length > 0 ? -(b.x - a.x) / length : 0
      return { hole: r - 1, side: i, m, length, nx, ny, wide: length * view.value.scale > 58 }
    }),
  ),
)
/** The outward side of each wall, whichever way the outline was walked. */
const outward = computed(() => (windsLeft(outline.value) ? 1 : -1))
const draftPath = computed(() => {
  const v = view.value
  const points = [
    ...props.draft.points.value,
    ...(cursor.value && props.draft.points.value.length > 0 ? [cursor.value] : []),
  ]
  return points.map((p, i) => `${i === 0 ? 'M' : 'L'}${v.x(p).toFixed(1)} ${v.y(p).toFixed(1)}`).join('')
})
const reach = computed(() => {
  const last = props.draft.points.value.at(-1)
  return last && cursor.value ? session.format('length', distance(last, cursor.value)) : ''
})
const hint = computed(() => {
  if (props.exiting) return 'Click the wall with the door by which the crew leaves.'
  if (!props.draft.drawing.value)
    return 'Drag a corner to move it, a small mark to add one; double-click a corner to remove it.'
  return props.draft.closable.value
    ? 'Click the first corner, or press Enter, to close.'
    : 'Click corner after corner. Shift keeps walls square to the grid.'
})
</script>

<template>
  <div ref="frame" class="frame" :class="{ drawing: draft.drawing.value || exiting }">
    <svg
      ref="svg"
      :height="HEIGHT"
      :width="Math.max(width, 240)"
      role="img"
      :aria-label="`Plan of ${desk.surface.value.name}`"
      data-test="outline"
      @pointermove="moved"
      @pointerup="drop"
      @pointercancel="dragged = null"
      @pointerleave="cursor = null"
      @click="pressed"
    >
      <path
        v-for="line in gridLines"
        :key="line.d"
        :d="line.d"
        :class="line.strong ? 'grid strong' : 'grid'"
      />
      <template v-if="outline.length > 0">
        <path :d="path(rings, view)" class="floor" fill-rule="evenodd" />
        <path v-for="(h, i) in holes" :key="i" :d="path([h], view)" class="hole" />
      </template>
      <g v-for="s in sides" :key="`${s.hole}-${s.side}`">
        <text
          v-if="s.hole < 0 && s.wide"
          class="length"
          :x="view.x(s.m) + s.nx * 22 * outward"
          :y="view.y(s.m) - s.ny * 16 * outward + 4"
        >
          {{ session.format('length', s.length) }}
        </text>
        <circle
          v-if="session.mayEdit && !draft.drawing.value && !exiting && s.length * view.scale > 40"
          class="between"
          r="4"
          :cx="view.x(s.m)"
          :cy="view.y(s.m)"
          @pointerdown="insert($event, s.hole, s.side, s.m)"
        />
      </g>
      <template v-for="(ring, r) in rings" :key="r">
        <g v-for="(p, c) in ring" :key="c">
          <circle
            class="corner"
            :class="{ fixed: !session.mayEdit }"
            :r="r === 0 ? 7 : 5"
            :cx="view.x(p)"
            :cy="view.y(p)"
            @pointerdown="grab($event, r - 1, c, p)"
            @dblclick="remove(r - 1, c)"
          />
          <text v-if="r === 0" class="name" :x="view.x(p)" :y="view.y(p) + 3.5">{{ c + 1 }}</text>
        </g>
      </template>
      <g v-if="desk.surfacePlan.value?.exit" class="exit" data-test="exit">
        <circle
          :cx="view.x(desk.surfacePlan.value.exit.at)"
          :cy="view.y(desk.surfacePlan.value.exit.at)"
          r="11"
        />
        <text :x="view.x(desk.surfacePlan.value.exit.at)" :y="view.y(desk.surfacePlan.value.exit.at) + 26">
          exit
        </text>
      </g>
      <g v-for="(p, i) in faults" :key="`f${i}`" class="fault">
        <circle :cx="view.x(p)" :cy="view.y(p)" r="14" />
      </g>
      <g v-if="draft.drawing.value">
        <path :d="draftPath" class="draft" />
        <circle
          v-for="(p, i) in draft.points.value"
          :key="i"
          class="pin"
          :class="{ first: i === 0 }"
          r="6"
          :cx="view.x(p)"
          :cy="view.y(p)"
        />
        <g v-if="cursor">
          <path
            :d="`M${view.x(cursor) - 8} ${view.y(cursor)}h16M${view.x(cursor)} ${view.y(cursor) - 8}v16`"
            class="cross"
          />
          <text v-if="reach" class="reach" :x="view.x(cursor) + 12" :y="view.y(cursor) - 10">
            {{ reach }}
          </text>
        </g>
      </g>
      <text
        v-if="outline.length === 0 && !draft.drawing.value"
        class="invite"
        :x="Math.max(width, 240) / 2"
        :y="HEIGHT / 2"
      >
        Not measured yet
      </text>
    </svg>
    <p class="quiet small hint">{{ hint }}</p>
  </div>
</template>

<style scoped>
.frame {
  width: 100%;
  overflow: hidden;
}
svg {
  display: block;
  touch-action: none;
  background: var(--paper);
  border: 1px solid var(--line);
}
.drawing svg {
  cursor: crosshair;
}
.grid {
  stroke: var(--faint);
  stroke-width: 1;
}
.grid.strong {
  stroke: var(--line);
  stroke-width: 0.7;
}
.floor {
  fill: color-mix(in srgb, var(--cure) 15%, var(--paper));
  stroke: var(--ink);
  stroke-width: 2.4;
  stroke-linejoin: round;
}
.hole {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.6;
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
.length {
  font-weight: 620;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.exit circle {
  fill: none;
  stroke: var(--cure);
  stroke-width: 4;
}
.exit text {
  font-weight: 740;
  fill: var(--cure);
}
.fault circle {
  fill: none;
  stroke: var(--stop);
  stroke-width: 4;
  stroke-dasharray: 5 3;
}
.draft {
  fill: color-mix(in srgb, #e2a13b 18%, transparent);
  stroke: var(--warn);
  stroke-width: 2.5;
  stroke-dasharray: 7 4;
}
.pin {
  fill: var(--paper);
  stroke: var(--warn);
  stroke-width: 2.5;
}
.pin.first {
  fill: #e2a13b;
}
.cross {
  stroke: var(--warn);
  stroke-width: 1.5;
}
.reach {
  text-anchor: start;
  font-weight: 680;
  font-size: 14px;
}
.invite {
  font-size: 18px;
  fill: var(--quiet);
}
.hint {
  margin: 6px 0 0;
}
</style>
