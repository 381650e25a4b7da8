<script setup lang="ts">
import { computed } from 'vue'
import type { PailAnswer } from '../api/client'
import { useSession } from '../features/people/session'

/** Temperature and share reacted against time. */
const props = defineProps<{ title: string; history: PailAnswer['pail']; life?: number }>()
const session = useSession()
const LEFT = 48
const WIDTH = 420
const HEIGHT = 120
const MARGIN_K = 5

const end = computed(() => props.history.moments.at(-1)?.time ?? 1)
const low = computed(() => Math.min(...props.history.moments.map((m) => m.temperature)) - MARGIN_K)
const high = computed(() => Math.max(...props.history.moments.map((m) => m.temperature)) + MARGIN_K)
const x = (time: number): number => LEFT + (WIDTH * time) / end.value
const y = (celsius: number): number => HEIGHT - (HEIGHT * (celsius - low.value)) / (high.value - low.value)
const heat = computed(() =>
  props.history.moments
    .map((m, i) => `${i ? 'L' : 'M'}${x(m.time).toFixed(1)} ${y(m.temperature).toFixed(1)}`)
    .join(''),
)
const reacted = computed(() =>
  props.history.moments
    .map((m, i) => `${i ? 'L' : 'M'}${x(m.time).toFixed(1)} ${(HEIGHT * (1 - m.reacted)).toFixed(1)}`)
    .join(''),
)
const QUARTERS = [0, 0.5, 1]
</script>

<template>
  <figure>
    <figcaption>
      <strong>{{ title }}</strong>: at most {{ session.format('temperature', history.peak.temperature)
      }}{{ history.gel === undefined ? '' : `, gels after ${session.format('span', history.gel)}` }}
    </figcaption>
    <svg
      :viewBox="`0 -4 ${LEFT + WIDTH + 12} ${HEIGHT + 26}`"
      role="img"
      :aria-label="`${title}: temperature and share reacted over ${session.format('span', end)}`"
    >
      <rect :x="LEFT" y="0" :width="WIDTH" :height="HEIGHT" class="frame" />
      <path v-if="life" :d="`M${x(life)} 0V${HEIGHT}`" class="end" />
      <path :d="reacted" class="reacted" />
      <path :d="heat" class="heat" />
      <text :x="LEFT - 6" y="10" text-anchor="end">{{ session.format('temperature', high) }}</text>
      <text :x="LEFT - 6" :y="HEIGHT" text-anchor="end">{{ session.format('temperature', low) }}</text>
      <text
        v-for="q in QUARTERS"
        :key="q"
        :x="x(q * end)"
        :y="HEIGHT + 16"
        :text-anchor="q === 0 ? 'start' : q === 1 ? 'end' : 'middle'"
      >
        {{ session.format('span', q * end) }}
      </text>
    </svg>
    <p class="small quiet key">
      — temperature <span>· · share reacted</span><template v-if="life"> ¦ no longer usable</template>
    </p>
  </figure>
</template>

<style scoped>
figure {
  margin: 0 0 10px;
}
svg {
  width: 100%;
}
text {
  font-size: 13px;
  fill: currentColor;
}
.frame {
  fill: none;
  stroke: var(--line);
}
.heat {
  fill: none;
  stroke: var(--stop);
  stroke-width: 2.5;
}
.reacted {
  fill: none;
  stroke: var(--cure);
  stroke-width: 2;
  stroke-dasharray: 2 4;
}
.end {
  stroke: currentColor;
  stroke-dasharray: 7 4;
  stroke-width: 2;
}
.key {
  margin-top: -4px;
}
</style>
