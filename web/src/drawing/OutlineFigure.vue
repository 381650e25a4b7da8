<script setup lang="ts">
import { computed } from 'vue'
import type { Surface, SurfacePlan } from '../api/client'
import { boxAround, distance, fit, middle, path, windsLeft } from './figures'
import { useDrawnWidth } from './useDrawnWidth'
import { useSession } from '../session/session'

const props = defineProps<{ surface: Surface; plan: SurfacePlan }>()
const session = useSession()
const { width } = useDrawnWidth(640)
const SHAPE = 0.69
const height = computed(() => Math.round(width.value * SHAPE))
const MARGIN = 58
const OUT = 22
const outline = computed(() => props.surface.floor.outline)
const rings = computed(() => [outline.value, ...props.surface.floor.holes.map((h) => h.outline)])
const view = computed(() =>
  fit(
    boxAround(outline.value) ?? { left: 0, right: 1, bottom: 0, top: 1 },
    width.value,
    height.value,
    MARGIN,
  ),
)
const sides = computed(() => {
  const outward = windsLeft(outline.value) ? 1 : -1
  return outline.value.map((a, i) => {
    const b = outline.value[(i + 1) % outline.value.length] ?? a
    const length = distance(a, b) || 1
    const m = middle(a, b)
    return {
      x: view.value.x(m) + ((b.y - a.y) / length) * OUT * outward,
      y: view.value.y(m) + ((b.x - a.x) / length) * OUT * outward + 4,
      words: session.format('length', length),
    }
  })
})
</script>

<template>
  <svg
    ref="drawn"
    :viewBox="`0 0 ${width} ${height}`"
    class="plan outline-figure"
    role="img"
    :aria-label="`Plan of ${surface.name} with its measures`"
  >
    <path :d="path(rings, view)" class="floor" fill-rule="evenodd" />
    <text v-for="(s, i) in sides" :key="i" :x="s.x" :y="s.y" class="length">{{ s.words }}</text>
    <text
      v-for="h in surface.floor.holes"
      :key="h.id"
      :x="view.x(h.outline[0]!)"
      :y="view.y(h.outline[0]!) + 14"
      class="hole"
    >
      {{ h.name }}
    </text>
    <g v-for="(p, i) in outline" :key="`c${i}`" class="corner">
      <circle :cx="view.x(p)" :cy="view.y(p)" r="9" />
      <text :x="view.x(p)" :y="view.y(p) + 3.5">{{ i + 1 }}</text>
    </g>
    <g v-if="plan.exit" class="exit">
      <circle :cx="view.x(plan.exit.at)" :cy="view.y(plan.exit.at)" r="11" />
      <text :x="view.x(plan.exit.at)" :y="view.y(plan.exit.at) + 26">exit</text>
    </g>
  </svg>
</template>

<style scoped>
.outline-figure {
  width: 100%;
  display: block;
  border: 1px solid var(--line);
}
.floor {
  fill: color-mix(in srgb, var(--cure) 12%, var(--paper));
  stroke: var(--ink);
  stroke-width: 2.2;
}
text {
  fill: var(--ink);
  font-size: 13px;
  text-anchor: middle;
}
.length {
  font-weight: 640;
}
.hole {
  font-size: 13px;
  text-anchor: start;
}
.corner text {
  font-size: 13px;
  font-weight: 700;
}
</style>
