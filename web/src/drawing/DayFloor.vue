<script setup lang="ts">
import { computed, useId } from 'vue'
import type { Point, RecordCoat, RecordCoatDay, RecordSurface } from '../api/client'
import { boxAround, fit, path } from './figures'
import StatePatterns from './StatePatterns.vue'

/** The floor on its day: each section in its state, the one at hand marked, and what is wrong where. */
const props = defineProps<{
  surface: RecordSurface
  plan: RecordCoat
  coat: RecordCoatDay
  chosen?: number
  marks?: { at: [number, number]; name: string }[]
}>()
const emit = defineEmits<{ choose: [batch: number]; place: [at: [number, number], batch: number] }>()
const WIDTH = 800
const HEIGHT = 300
const MARGIN = 22
const id = useId()
const outline = computed<Point[]>(() => props.surface.outline?.[0] ?? [])
const view = computed(() =>
  fit(boxAround(outline.value) ?? { left: 0, bottom: 0, right: 1, top: 1 }, WIDTH, HEIGHT, MARGIN),
)
const words = {
  waiting: '',
  mixing: 'mixing',
  mixed: 'mixed',
  poured: 'poured',
  spread: 'spread',
  rolled: 'done',
} as const
const sections = computed(() =>
  props.plan.batches
    .filter((b) => (b.rings?.length ?? 0) > 0)
    .map((b) => {
      const state = props.coat.batches.find((d) => d.number === b.number)?.state ?? 'waiting'
      return {
        number: b.number,
        d: path(b.rings ?? [], view.value),
        state,
        x: view.value.x(b.label),
        y: view.value.y(b.label),
      }
    }),
)
function pick(event: MouseEvent, batch: number): void {
  emit('choose', batch)
  const svg = (event.currentTarget as SVGElement).ownerSVGElement
  const matrix = svg?.getScreenCTM()
  if (!svg || !matrix) return
  const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse())
  const origin = { x: view.value.x({ x: 0, y: 0 }), y: view.value.y({ x: 0, y: 0 }) }
  emit('place', [(p.x - origin.x) / view.value.scale, (origin.y - p.y) / view.value.scale], batch)
}
const spot = (at: [number, number]): Point => ({ x: at[0], y: at[1] })
</script>

<template>
  <svg
    v-if="outline.length"
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    class="plan day-floor"
    role="img"
    :aria-label="`The sections of ${surface.name}`"
    data-test="day-floor"
  >
    <StatePatterns :id="id" :color="plan.color" />
    <path
      v-for="s in sections"
      :key="s.number"
      :d="s.d"
      fill-rule="evenodd"
      class="section"
      :class="{ chosen: s.number === chosen }"
      :fill="
        s.state === 'rolled'
          ? plan.color
          : s.state === 'waiting'
            ? 'transparent'
            : s.state === 'mixing' || s.state === 'mixed'
              ? `url(#${id}-mixing)`
              : `url(#${id}-workable)`
      "
      @click="pick($event, s.number)"
    />
    <path :d="path(surface.outline ?? [], view)" class="walls" fill-rule="evenodd" />
    <g
      v-for="s in sections"
      :key="`n${s.number}`"
      class="label"
      :transform="`translate(${s.x.toFixed(1)} ${s.y.toFixed(1)})`"
    >
      <circle r="15" />
      <text y="6" class="number">{{ s.number }}</text>
      <text v-if="words[s.state]" y="32" class="state">{{ words[s.state] }}</text>
    </g>
    <g
      v-for="m in marks ?? []"
      :key="m.name"
      class="mark"
      :transform="`translate(${view.x(spot(m.at)).toFixed(1)} ${view.y(spot(m.at)).toFixed(1)})`"
    >
      <path d="M0 -12L12 0L0 12L-12 0Z" />
      <text y="-16">{{ m.name }}</text>
    </g>
  </svg>
</template>

<style scoped>
.day-floor {
  width: 100%;
  display: block;
  background: var(--paper);
  border: 1px solid var(--line);
}
.section {
  stroke: var(--ink);
  stroke-width: 1;
  stroke-dasharray: 8 5;
  pointer-events: all;
  cursor: pointer;
}
.section.chosen {
  stroke-width: 5;
  stroke-dasharray: none;
}
.walls {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
  pointer-events: none;
}
.label,
.mark {
  pointer-events: none;
}
.label circle {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.6;
}
text {
  text-anchor: middle;
  font-size: 16px;
  font-weight: 700;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.mark path {
  fill: var(--stop);
  stroke: var(--paper);
  stroke-width: 2;
}
</style>
