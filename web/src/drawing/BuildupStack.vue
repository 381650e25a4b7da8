<script setup lang="ts">
import { computed, ref } from 'vue'
import type { CoatPlan } from '../api/client'
import { useDrawnWidth } from './useDrawnWidth'
import { useSession } from '../session/session'

/** A cut through the coats, films to proportion. A band is dragged to another place. */
const props = defineProps<{ coats: CoatPlan[]; movable: boolean; currency: string }>()
const emit = defineEmits<{ move: [from: number, to: number] }>()
const session = useSession()
const LABELS = 200
const MOST = 240
const BANDS = 260
const LEAST = 5
const SLAB = 46
const LABEL_STEP = 33
const { frame: svg, width: measured } = useDrawnWidth(MOST + LABELS)
/** How wide the bands are, beside their labels. */
const wide = computed(() => Math.min(MOST, measured.value - LABELS))
const drag = ref<{ from: number; at: number; y: number } | null>(null)

/** Bands to true proportion of the wet films, bottom to top; none thinner than can be seen. */
const bands = computed(() => {
  const films = props.coats.map((c) => c.build?.wet ?? 0)
  const total = films.reduce((a, b) => a + b, 0)
  let y = BANDS + 10
  return props.coats.map((coat, i) => {
    const film = films[i] ?? 0
    const height = total > 0 ? Math.max(LEAST, (film / total) * BANDS * 0.92) : 24
    y -= height
    const grains = coat.build?.additions?.find((a) => a.how !== 'into the mix')
    return { coat, film, height, y, grains }
  })
})
/** Labels kept from running into each other, and inside the drawing. */
const labels = computed(() => {
  let floor = BANDS + 34
  const placed = bands.value.map((b) => {
    const label = Math.min(b.y + b.height / 2 + 4, floor - LABEL_STEP)
    floor = label
    return { ...b, label }
  })
  let ceiling = 14
  for (const b of placed.toReversed()) {
    b.label = Math.max(b.label, ceiling)
    ceiling = b.label + LABEL_STEP
  }
  return placed
})
const tall = computed(() => Math.max(BANDS + SLAB + 14, ...labels.value.map((l) => l.label + LABEL_STEP)))

function height(event: PointerEvent): number {
  const box = svg.value?.getBoundingClientRect()
  return box ? ((event.clientY - box.top) / box.height) * tall.value : 0
}
/** The place, from the bottom, that a height of the drawing stands for. */
function place(y: number): number {
  const below = bands.value.filter((b) => b.y + b.height / 2 > y).length
  const from = drag.value?.from ?? 0
  return Math.max(0, Math.min(props.coats.length - 1, below > from ? below - 1 : below))
}
function start(index: number, event: PointerEvent): void {
  if (!props.movable || props.coats.length < 2) return
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  drag.value = { from: index, at: index, y: height(event) }
}
function over(event: PointerEvent): void {
  if (!drag.value) return
  const y = height(event)
  drag.value = { ...drag.value, y, at: place(y) }
}
function drop(): void {
  const d = drag.value
  drag.value = null
  if (d && d.at !== d.from) emit('move', d.from, d.at)
}
/** Where the line that shows the new place lies. */
const line = computed(() => {
  const d = drag.value
  if (!d || d.at === d.from) return null
  const b = bands.value[d.at]
  if (!b) return null
  return d.at > d.from ? b.y : b.y + b.height
})
</script>

<template>
  <figure class="stack">
    <svg
      ref="drawn"
      :viewBox="`0 0 ${wide + LABELS} ${tall}`"
      role="img"
      aria-label="Cut through the build-up, films to proportion"
    >
      <defs>
        <pattern id="slab" width="14" height="14" patternUnits="userSpaceOnUse">
          <rect width="14" height="14" fill="#a9b3ae" />
          <circle cx="4" cy="5" r="1.6" fill="#7d8883" />
          <circle cx="10" cy="11" r="2.2" fill="#8b9691" />
        </pattern>
      </defs>
      <rect x="0" :y="BANDS + 10" :width="wide" :height="SLAB" fill="url(#slab)" />
      <g
        v-for="(b, i) in labels"
        :key="b.coat.id"
        :data-band="b.coat.id"
        :class="{ movable: movable && coats.length > 1, held: drag?.from === i }"
        @pointerdown="start(i, $event)"
        @pointermove="over"
        @pointerup="drop"
        @pointercancel="drag = null"
      >
        <rect
          x="0"
          :y="b.y"
          :width="wide"
          :height="b.height"
          :fill="b.coat.color || '#999'"
          stroke="#12201d"
          stroke-width=".7"
        />
        <path
          v-if="b.grains"
          :d="`M4 ${b.y + 2}H${wide - 4}`"
          stroke="#12201d"
          stroke-width="4"
          stroke-dasharray="3 7"
        />
        <path
          :d="`M${wide} ${b.y + b.height / 2}L${wide + 12} ${b.label - 4}`"
          stroke="currentColor"
          fill="none"
        />
        <text :x="wide + 16" :y="b.label">
          {{ b.coat.number }} · {{ b.film > 0 ? session.format('film', b.film) : '—' }}
        </text>
        <text v-if="b.coat.build" :x="wide + 16" :y="b.label + 14" class="ground">
          {{ session.format('coverage', b.coat.build.coverage)
          }}{{ b.coat.price === undefined ? '' : ` · ${session.price(b.coat.price, currency)}` }}
        </text>
      </g>
      <path v-if="line !== null" :d="`M-4 ${line}H${wide + 4}`" stroke="var(--stop)" stroke-width="5" />
      <text :x="wide + 16" :y="BANDS + SLAB + 6" class="ground">surface</text>
    </svg>
    <figcaption v-if="movable && coats.length > 1" class="small quiet">
      Drag a band to another place; ↑ and ↓ beside a coat do the same.
    </figcaption>
  </figure>
</template>

<style scoped>
.stack {
  margin: 0;
  max-width: 460px;
  position: sticky;
  top: 120px;
  align-self: start;
}
@media (max-width: 900px) {
  .stack {
    position: static;
  }
}
svg {
  width: 100%;
  display: block;
}
text {
  font-size: 13.5px;
  font-weight: 620;
  fill: currentColor;
  pointer-events: none;
}
.ground {
  fill: var(--quiet);
  font-size: 13px;
}
.movable {
  cursor: grab;
  touch-action: none;
}
.held {
  opacity: 0.6;
  cursor: grabbing;
}
</style>
