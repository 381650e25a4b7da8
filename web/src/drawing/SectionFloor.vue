<script setup lang="ts">
import { computed, useId } from 'vue'
import type { Point } from '../api/client'
import StatePatterns from './StatePatterns.vue'
import { boxAround, fit, path } from './figures'
import { useDrawnWidth } from './useDrawnWidth'

/** How a section is filled: with the colour of its coat, with the pattern of a state, or not at all. */
export type Fill = 'none' | 'solid' | 'mixing' | 'workable' | 'setting'

export interface ShownSection {
  number: number
  rings: Point[][]
  label: Point
  fill: Fill
  words: string
  /** How strong the colour of a solid section is, from 0 to 1. */
  strength?: number
}

/**
 * The sections of a floor in their states, with numbers and words. What else stands on it goes
 * into the slot, which gets the view: how plan points become points of the picture.
 */
const props = defineProps<{
  rings: Point[][]
  sections: ShownSection[]
  color: string
  name: string
  height: number
  margin: number
  letters: number
  chosen?: number
  picks?: boolean
}>()
const emit = defineEmits<{ pick: [section: number, at: [number, number]] }>()
const { width } = useDrawnWidth(640)
const TIGHT = 28
const id = useId()
const view = computed(() =>
  fit(
    boxAround(props.rings.flat()) ?? { left: 0, bottom: 0, right: 1, top: 1 },
    width.value,
    props.height,
    props.margin,
  ),
)
const placed = computed(() =>
  props.sections.map((s) => {
    const around = boxAround(s.rings.flat()) ?? { left: 0, right: 0, bottom: 0, top: 0 }
    const wide = (around.right - around.left) * view.value.scale
    const high = (around.top - around.bottom) * view.value.scale
    // Numbers of narrow sections stand staggered, so that none covers its neighbour.
    const aside = Math.min(wide, high) < TIGHT ? ((s.number % 3) - 1) * TIGHT : 0
    return {
      ...s,
      d: path(s.rings, view.value),
      x: view.value.x(s.label) + (wide < high ? 0 : aside),
      y: view.value.y(s.label) + (wide < high ? aside : 0),
    }
  }),
)
const fillOf = (s: ShownSection): string => {
  if (s.fill === 'none') return 'transparent'
  return s.fill === 'solid' ? props.color : `url(#${id}-${s.fill})`
}
function pick(event: MouseEvent, section: number): void {
  const svg = (event.currentTarget as SVGElement).ownerSVGElement
  const matrix = svg?.getScreenCTM()
  if (!svg || !matrix) return
  const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse())
  const origin = { x: view.value.x({ x: 0, y: 0 }), y: view.value.y({ x: 0, y: 0 }) }
  emit('pick', section, [(p.x - origin.x) / view.value.scale, (origin.y - p.y) / view.value.scale])
}
</script>

<template>
  <svg ref="drawn" :viewBox="`0 0 ${width} ${height}`" class="plan floor" role="img" :aria-label="name">
    <StatePatterns :id="id" :color="color" />
    <path
      v-for="s in placed"
      :key="s.number"
      :d="s.d"
      fill-rule="evenodd"
      class="section"
      :class="[s.words, { chosen: s.number === chosen, picks }]"
      :fill="fillOf(s)"
      :fill-opacity="s.strength ?? 1"
      @click="picks && pick($event, s.number)"
    />
    <path :d="path(rings, view)" class="walls" fill-rule="evenodd" />
    <g
      v-for="s in placed"
      :key="`n${s.number}`"
      class="label"
      :transform="`translate(${s.x.toFixed(1)} ${s.y.toFixed(1)})`"
      :font-size="letters"
    >
      <circle :r="letters * 0.93" />
      <text :y="letters * 0.37" class="number">{{ s.number }}</text>
      <text v-if="s.words" :y="letters * -1.3" class="state">{{ s.words }}</text>
    </g>
    <slot :view="view" :width="width" />
  </svg>
</template>

<style scoped>
.floor {
  width: 100%;
  display: block;
  background: var(--paper);
  border: 1px solid var(--line);
}
.section {
  stroke: var(--ink);
  stroke-width: 1;
  stroke-dasharray: 8 5;
}
.section.picks {
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
.label {
  pointer-events: none;
}
.label circle {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.label text {
  text-anchor: middle;
  font-weight: 700;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
</style>
