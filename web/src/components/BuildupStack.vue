<script setup lang="ts">
import { computed } from 'vue'
import type { CoatPlan } from '../api/client'
import { useSession } from '../stores/session'

const props = defineProps<{ coats: CoatPlan[] }>()
const session = useSession()
const WIDTH = 300
const BANDS = 210
const LEAST = 5
const SLAB = 46

/** Bands to true proportion of the wet films, bottom to top; none thinner than can be seen. */
const bands = computed(() => {
  const films = props.coats.map((c) => c.build?.wet ?? 0)
  const total = films.reduce((a, b) => a + b, 0)
  let y = BANDS + 10
  return props.coats.map((coat, i) => {
    const film = films[i] ?? 0
    const height = total > 0 ? Math.max(LEAST, (film / total) * BANDS * 0.92) : 24
    y -= height
    return { coat, film, height, y }
  })
})
/** Labels kept from running into each other. */
const labels = computed(() => {
  let floor = BANDS + 30
  return bands.value.map((b) => {
    const y = Math.min(b.y + b.height / 2 + 4, floor - 17)
    floor = y
    return { ...b, label: y }
  })
})
</script>

<template>
  <svg
    :viewBox="`0 0 ${WIDTH + 130} ${BANDS + SLAB + 14}`"
    class="stack"
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
    <rect x="0" :y="BANDS + 10" :width="WIDTH" :height="SLAB" fill="url(#slab)" />
    <g v-for="b in labels" :key="b.coat.id" :data-band="b.coat.id">
      <rect
        x="0"
        :y="b.y"
        :width="WIDTH"
        :height="b.height"
        :fill="b.coat.color || '#999'"
        stroke="#12201d"
        stroke-width=".7"
      />
      <path
        :d="`M${WIDTH} ${b.y + b.height / 2}L${WIDTH + 12} ${b.label - 4}`"
        stroke="currentColor"
        fill="none"
      />
      <text :x="WIDTH + 16" :y="b.label">
        {{ b.coat.number }} · {{ b.film > 0 ? session.format('film', b.film) : '—' }}
      </text>
    </g>
    <text :x="WIDTH + 16" :y="BANDS + SLAB / 2 + 14" class="ground">floor</text>
  </svg>
</template>

<style scoped>
.stack {
  width: 100%;
  max-width: 460px;
  display: block;
}
text {
  font-size: 13.5px;
  font-weight: 620;
  fill: currentColor;
}
.ground {
  fill: var(--quiet);
}
</style>
