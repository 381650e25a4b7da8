<script setup lang="ts">
import { computed, ref } from 'vue'
import type { PailAnswer } from '../api/client'
import { useSession } from '../session/session'
import { useDrawnWidth } from '../drawing/useDrawnWidth'
import { along, alongLog, logTicks, ticks } from './scale'

/** Pot life over mass and temperature, with the pail in hand as a point that can be dragged. */
const props = defineProps<{ surface: PailAnswer['surface']; mass: number; temperature: number }>()
const emit = defineEmits<{ move: [mass: number, celsius: number] }>()
const session = useSession()
const LEFT = 52
const BOTTOM = 30
const RIGHT = 24
const ROOM = 56
const HEIGHT = 320
const MINUTE = 60
const KEY_STEP = 1.1
const DEGREE = 1
const { frame, width: across } = useDrawnWidth(556)
/** The plot inside the margins, as wide as the screen leaves it. */
const WIDTH = computed(() => across.value - LEFT - RIGHT)
const held = ref(false)

/** Bands of life, told by their words as well as their shade. */
const bands = [
  { from: 0, name: 'under 10 min', fill: '#7c2f1d' },
  { from: 10, name: '10 to 20', fill: '#b5622c' },
  { from: 20, name: '20 to 40', fill: '#d7a64c' },
  { from: 40, name: '40 to 80', fill: '#a9bd8f' },
  { from: 80, name: 'over 80 min', fill: '#4f8f86' },
]
function bandOf(life: number): number {
  return bands.findLastIndex((b) => life / MINUTE >= b.from)
}
const least = computed(() => props.surface.masses[0] ?? 1)
const most = computed(() => props.surface.masses.at(-1) ?? 1)
const cold = computed(() => props.surface.temperatures[0] ?? 0)
const warm = computed(() => props.surface.temperatures.at(-1) ?? 1)
const x = computed(() => alongLog(least.value, most.value, LEFT, LEFT + WIDTH.value))
const y = computed(() => along(cold.value, warm.value, HEIGHT, 0))

const cells = computed(() => {
  const { masses, temperatures, lives } = props.surface
  const w = WIDTH.value / (masses.length - 1)
  const h = HEIGHT / (temperatures.length - 1)
  return lives.flatMap((row, r) =>
    row.map((life, c) => ({
      key: `${r}.${c}`,
      x: LEFT + (c - 0.5) * w,
      y: HEIGHT - (r + 0.5) * h,
      w: w + 0.5,
      h: h + 0.5,
      fill: bands[bandOf(life)]?.fill,
    })),
  )
})
/** Of the masses, those that have room beside the one before. */
const masses = computed(() => {
  let last = -Infinity
  return logTicks('mass', least.value, most.value, session.units, 6).filter((t) => {
    const room = x.value(t.si) - last >= ROOM
    if (room) last = x.value(t.si)
    return room
  })
})
const temperatures = computed(() => ticks('temperature', cold.value, warm.value, session.units, 6))
const point = computed(() => ({
  x: Math.max(LEFT, Math.min(LEFT + WIDTH.value, x.value(props.mass))),
  y: Math.max(0, Math.min(HEIGHT, y.value(props.temperature))),
}))

function place(mass: number, celsius: number): void {
  const ROUND = 100
  emit(
    'move',
    Math.round(Math.max(least.value, Math.min(most.value, mass)) * ROUND) / ROUND,
    Math.round(Math.max(cold.value, Math.min(warm.value, celsius)) * 2) / 2,
  )
}
function drag(event: PointerEvent): void {
  if (!held.value || !frame.value) return
  const box = frame.value.getBoundingClientRect()
  const scale = (LEFT + WIDTH.value + RIGHT) / box.width
  const share = ((event.clientX - box.left) * scale - LEFT) / WIDTH.value
  const down = (event.clientY - box.top) * scale - 6
  place(
    least.value * (most.value / least.value) ** share,
    cold.value + (1 - down / HEIGHT) * (warm.value - cold.value),
  )
}
function hold(event: PointerEvent): void {
  held.value = true
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  drag(event)
}
function key(event: KeyboardEvent): void {
  const steps: Record<string, [number, number]> = {
    ArrowLeft: [1 / KEY_STEP, 0],
    ArrowRight: [KEY_STEP, 0],
    ArrowUp: [1, DEGREE],
    ArrowDown: [1, -DEGREE],
  }
  const step = steps[event.key]
  if (!step) return
  event.preventDefault()
  place(props.mass * step[0], props.temperature + step[1])
}
</script>

<template>
  <figure class="surface">
    <figcaption><strong>Pot life by mass and temperature</strong></figcaption>
    <svg
      ref="drawn"
      :viewBox="`0 -6 ${LEFT + WIDTH + RIGHT} ${HEIGHT + BOTTOM + 12}`"
      role="slider"
      tabindex="0"
      aria-label="Mass and temperature of the pail"
      :aria-valuenow="mass"
      :aria-valuetext="`${session.format('mass', mass)} at ${session.format('temperature', temperature)}`"
      data-test="bench-surface"
      @pointerdown="hold"
      @pointermove="drag"
      @pointerup="held = false"
      @pointercancel="held = false"
      @keydown="key"
    >
      <clipPath id="inside"><rect :x="LEFT" y="0" :width="WIDTH" :height="HEIGHT" /></clipPath>
      <g clip-path="url(#inside)">
        <rect v-for="c in cells" :key="c.key" :x="c.x" :y="c.y" :width="c.w" :height="c.h" :fill="c.fill" />
      </g>
      <g v-for="m in masses" :key="m.si">
        <path :d="`M${x(m.si)} ${HEIGHT}v5`" stroke="currentColor" />
        <text :x="x(m.si)" :y="HEIGHT + 20" text-anchor="middle">{{ m.words }}</text>
      </g>
      <g v-for="t in temperatures" :key="t.si">
        <path :d="`M${LEFT} ${y(t.si)}h-5`" stroke="currentColor" />
        <text :x="LEFT - 8" :y="y(t.si) + 4" text-anchor="end">{{ t.words }}</text>
      </g>
      <path :d="`M${point.x} 0V${HEIGHT}M${LEFT} ${point.y}H${LEFT + WIDTH}`" class="cross" />
      <circle :cx="point.x" :cy="point.y" r="9" class="point" />
    </svg>
    <ul class="legend small">
      <li v-for="b in bands" :key="b.name">
        <svg aria-hidden="true" width="16" height="12"><rect width="16" height="12" :fill="b.fill" /></svg>
        {{ b.name }}
      </li>
    </ul>
    <p class="small quiet">Drag the point, or use the arrow keys. The air is taken as warm as the mix.</p>
  </figure>
</template>

<style scoped>
.surface {
  margin: 0;
}
svg[role='slider'] {
  width: 100%;
  touch-action: none;
  cursor: crosshair;
}
text {
  font-size: 13px;
  fill: currentColor;
}
.cross {
  stroke: #10201d;
  stroke-dasharray: 3 4;
  fill: none;
}
.point {
  fill: #fff;
  stroke: #10201d;
  stroke-width: 4;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  list-style: none;
  padding: 0;
}
</style>
