<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, useId } from 'vue'
import type { RecordCoat, RecordCoatDay } from '../api/client'
import { minuteTime } from '../fields/clock'
import StatePatterns from './StatePatterns.vue'

/** A coat along time: each batch as it was planned, above, and as it went, below. */
const props = defineProps<{ coat: RecordCoatDay; plan: RecordCoat; zone?: string }>()
const frame = ref<HTMLElement | null>(null)
const { width: measured } = useElementSize(frame)
const width = computed(() => Math.max(measured.value, 300))
const id = useId()
const NAMES = 78
const TOP = 26
const ROW = 44
const BAR = 17
const MINUTE = 60_000
const HALF_LABEL = 34

const at = (time: string): number => new Date(time).getTime()
const rows = computed(() =>
  props.coat.batches.map((b) => ({
    number: b.number,
    planned: b.planned,
    did: b.meets ? b : undefined,
    due: b.due,
    useBy: b.useBy,
    late: !!b.useBy && at(b.due.empty) > at(b.useBy),
  })),
)
const span = computed(() => {
  const all = rows.value.flatMap((r) => [
    ...(r.planned ? [at(r.planned.meets), at(r.planned.done)] : []),
    at(r.due.meets),
    at(r.due.done),
  ])
  return { from: Math.min(...all), to: Math.max(...all, Math.min(...all) + MINUTE) }
})
const x = (t: number): number =>
  NAMES + ((t - span.value.from) / (span.value.to - span.value.from)) * (width.value - NAMES - 8)
const height = computed(() => TOP + rows.value.length * ROW)
const ticks = computed(() => {
  const { from, to } = span.value
  const step =
    [1, 2, 5, 10, 15, 30, 60, 120, 240, 720, 1440]
      .map((m) => m * MINUTE)
      .find((s) => (to - from) / s <= (width.value - NAMES) / 90) ?? 1440 * MINUTE
  const first = Math.ceil(from / step) * step
  return Array.from({ length: Math.floor((to - first) / step) + 1 }, (_, i) => first + i * step)
})
const wide = (from: string, to: string): number => Math.max(2, x(at(to)) - x(at(from)))
</script>

<template>
  <div ref="frame">
    <svg
      :width="width"
      :height="height"
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      aria-label="Each batch as planned and as it went"
      data-test="day-ribbons"
    >
      <StatePatterns :id="id" :color="plan.color" />
      <g v-for="t in ticks" :key="t">
        <path :d="`M${x(t)} ${TOP - 6}V${height}`" class="tick" />
        <text :x="Math.min(Math.max(x(t), NAMES + HALF_LABEL), width - HALF_LABEL)" y="13" class="time">
          {{ minuteTime(t, zone) }}
        </text>
      </g>
      <g v-for="(r, i) in rows" :key="r.number" :transform="`translate(0 ${TOP + i * ROW})`">
        <text x="0" y="24" class="name">Batch {{ r.number }}</text>
        <g v-if="r.planned" class="planned">
          <rect
            :x="x(at(r.planned.meets))"
            y="0"
            :width="wide(r.planned.meets, r.planned.pour)"
            :height="BAR"
            fill="none"
          />
          <rect
            :x="x(at(r.planned.pour))"
            y="0"
            :width="wide(r.planned.pour, r.planned.done)"
            :height="BAR"
            :fill="plan.color"
            fill-opacity=".35"
          />
        </g>
        <g v-if="r.did" class="did" :class="{ late: r.late }">
          <rect
            :x="x(at(r.due.meets))"
            :y="BAR + 2"
            :width="wide(r.due.meets, r.due.pour)"
            :height="BAR"
            :fill="`url(#${id}-mix)`"
          />
          <rect
            :x="x(at(r.due.pour))"
            :y="BAR + 2"
            :width="wide(r.due.pour, r.due.done)"
            :height="BAR"
            :fill="plan.color"
          />
          <path
            v-if="r.useBy && at(r.useBy) <= span.to"
            :d="`M${x(at(r.useBy))} ${BAR}v${BAR + 4}`"
            class="limit"
          />
        </g>
        <text v-else :x="NAMES" :y="BAR + 16" class="quiet">not mixed</text>
      </g>
    </svg>
    <p class="small quiet">
      Upper bar as planned, lower bar as it went: hatched from mixing start to pour, filled until the last
      step; the red mark is its use-by.
    </p>
  </div>
</template>

<style scoped>
.tick {
  stroke: var(--line);
}
text {
  font-size: 13px;
  fill: var(--ink);
}
.time {
  text-anchor: middle;
  fill: var(--quiet);
}
.quiet {
  fill: var(--quiet);
}
.name {
  font-weight: 640;
}
.planned rect {
  stroke: var(--quiet);
  stroke-dasharray: 4 3;
}
.did rect {
  stroke: var(--ink);
}
.late rect {
  stroke: var(--stop);
  stroke-width: 2.5;
}
.limit {
  stroke: var(--stop);
  stroke-width: 3;
}
p {
  margin: 4px 0 0;
}
</style>
