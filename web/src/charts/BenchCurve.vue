<script setup lang="ts">
import { line } from 'd3-shape'
import { computed } from 'vue'
import type { PailAnswer } from '../api/client'
import { useSession } from '../session/session'
import { useDrawnWidth } from '../drawing/useDrawnWidth'
import { along, ticks } from './scale'

/** Temperature and share reacted against time. */
const props = defineProps<{ title: string; history: PailAnswer['pail']; life?: number }>()
const session = useSession()
const LEFT = 48
const RIGHT = 12
const HEIGHT = 120
const { width: across } = useDrawnWidth(480)
const WIDTH = computed(() => across.value - LEFT - RIGHT)
const MARGIN_K = 5

const end = computed(() => props.history.moments.at(-1)?.time ?? 1)
const low = computed(() => Math.min(...props.history.moments.map((m) => m.temperature)) - MARGIN_K)
const high = computed(() => Math.max(...props.history.moments.map((m) => m.temperature)) + MARGIN_K)
const x = computed(() => along(0, end.value, LEFT, LEFT + WIDTH.value))
const y = computed(() => along(low.value, high.value, HEIGHT, 0))
type Moment = PailAnswer['pail']['moments'][number]
const DIGITS = 1
const heat = computed(
  () =>
    line<Moment>(
      (m) => x.value(m.time),
      (m) => y.value(m.temperature),
    ).digits(DIGITS)(props.history.moments) ?? undefined,
)
const reacted = computed(
  () =>
    line<Moment>(
      (m) => x.value(m.time),
      (m) => HEIGHT * (1 - m.reacted),
    ).digits(DIGITS)(props.history.moments) ?? undefined,
)
const times = computed(() => ticks('span', 0, end.value, session.units, 4))
const degrees = computed(() => ticks('temperature', low.value, high.value, session.units, 3))
</script>

<template>
  <figure>
    <figcaption>
      <strong>{{ title }}</strong>: at most {{ session.format('temperature', history.peak.temperature)
      }}{{ history.gel === undefined ? '' : `, gels after ${session.format('span', history.gel)}` }}
    </figcaption>
    <svg
      ref="drawn"
      :viewBox="`0 -4 ${LEFT + WIDTH + RIGHT} ${HEIGHT + 26}`"
      role="img"
      :aria-label="`${title}: temperature and degree of cure over ${session.format('span', end)}`"
    >
      <rect :x="LEFT" y="0" :width="WIDTH" :height="HEIGHT" class="frame" />
      <path v-if="life" :d="`M${x(life)} 0V${HEIGHT}`" class="end" />
      <path :d="reacted" class="reacted" />
      <path :d="heat" class="heat" />
      <text v-for="t in degrees" :key="`d${t.si}`" :x="LEFT - 6" :y="y(t.si) + 4" text-anchor="end">
        {{ t.words }}
      </text>
      <text
        v-for="t in times"
        :key="`t${t.si}`"
        :x="x(t.si)"
        :y="HEIGHT + 16"
        :text-anchor="x(t.si) > LEFT + WIDTH - 20 ? 'end' : 'middle'"
      >
        {{ t.words }}
      </text>
    </svg>
    <p class="small quiet key">
      — temperature <span>· · degree of cure</span><template v-if="life"> ¦ end of use</template>
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
