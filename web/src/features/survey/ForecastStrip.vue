<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { api, type Judged } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { along, ticks } from '../../charts/scale'
import { useSession } from '../../session/session'
import { clockTime, dateOnly, minuteTime } from '../../fields/clock'
import PickField from '../../fields/PickField.vue'
import TypedWeather from './TypedWeather.vue'

/** Go, wait or stop along the days, with the slab above its dew point. */
const props = defineProps<{ hours: Judged[] }>()
const desk = useDesk()
const session = useSession()
const climate = ref(desk.file.value.job.forecast?.place ?? 'estuary')
const { trouble, ask } = useRequest()
const held = ref<number | null>(null)
const WIDTH = 1150
const HEIGHT = 150
const LEFT = 46
const BAND = 26
const forecast = computed(() => desk.file.value.job.forecast)
const range = computed(() => {
  const all = props.hours.flatMap((h) => [h.slab, h.dew])
  return { low: Math.min(...all) - 2, high: Math.max(...all) + 2 }
})
const step = computed(() => (WIDTH - LEFT) / Math.max(1, props.hours.length))
const y = computed(() => along(range.value.low, range.value.high, HEIGHT - BAND - 16, 8))
const degrees = computed(() => ticks('temperature', range.value.low, range.value.high, session.units, 3))
function line(value: (h: Judged) => number): string {
  return props.hours
    .map(
      (h, i) =>
        `${i ? 'L' : 'M'}${(LEFT + (i + 0.5) * step.value).toFixed(1)} ${y.value(value(h)).toFixed(1)}`,
    )
    .join('')
}
const zone = computed(() => desk.plan.value.zone)
const days = computed(() =>
  props.hours.flatMap((h, i) => {
    const midnight = minuteTime(h.at, zone.value).startsWith('00')
    return midnight || i === 0 ? [{ x: LEFT + i * step.value, words: dateOnly(h.at, zone.value) }] : []
  }),
)
const words = { go: 'go', wait: 'wait', stop: 'stop' }
/** Runs of hours with one answer. */
const runs = computed(() => {
  const all: { state: Judged['state']; from: number; to: number }[] = []
  props.hours.forEach((h, i) => {
    const last = all.at(-1)
    if (last?.state === h.state) last.to = i + 1
    else all.push({ state: h.state, from: i, to: i + 1 })
  })
  return all
})
const shown = computed(() => (held.value === null ? undefined : props.hours[held.value]))

async function fetchForecast(): Promise<void> {
  trouble.value = ''
  const { data } = await ask(
    api.GET('/api/forecast', {
      params: { query: { climate: climate.value, ...desk.file.value.job.where } },
    }),
    'The forecast could not be fetched.',
    'The server does not answer; the forecast stays as it was.',
  )
  if (data) desk.editor.edit('forecast', (f) => (f.job.forecast = data))
}
function point(event: PointerEvent): void {
  const box = (event.currentTarget as SVGElement).getBoundingClientRect()
  const x = ((event.clientX - box.left) / box.width) * WIDTH - LEFT
  const i = Math.floor(x / step.value)
  held.value = i >= 0 && i < props.hours.length ? i : null
}
</script>

<template>
  <div class="forecast" data-test="forecast">
    <div class="row">
      <h3 class="grow">Forecast</h3>
      <span v-if="forecast" class="quiet small"
        >{{ forecast.place }}, issued {{ clockTime(forecast.told, zone) }}</span
      >
      <template v-if="session.mayEdit">
        <PickField
          v-model="climate"
          label="Climate of the forecast"
          :options="{ estuary: 'estuary', plateau: 'plateau', foothills: 'foothills' }"
        />
        <v-btn size="small" data-test="fetch-forecast" @click="fetchForecast">{{
          forecast ? 'Refresh' : 'Load forecast'
        }}</v-btn>
      </template>
    </div>
    <p v-if="trouble" class="small" role="alert">{{ trouble }}</p>
    <p v-if="hours.length === 0" class="quiet small">
      Without a forecast only readings are used. Load or type one to see which hours are suitable.
    </p>
    <template v-else>
      <svg
        :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
        role="img"
        aria-label="Slab temperature and dew point over the forecast, with go, wait and stop by the hour"
        @pointermove="point"
        @pointerleave="held = null"
      >
        <defs>
          <pattern
            id="stop-hours"
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <rect width="3" height="6" class="stop-ink" />
          </pattern>
          <pattern id="wait-hours" width="6" height="6" patternUnits="userSpaceOnUse">
            <circle cx="3" cy="3" r="1.3" class="wait-ink" />
          </pattern>
        </defs>
        <g v-for="d in days" :key="d.x">
          <path :d="`M${d.x} 0V${HEIGHT - BAND}`" class="day" />
          <text :x="d.x + 6" y="14">{{ d.words }}</text>
        </g>
        <text v-for="t in degrees" :key="t.si" x="0" :y="y(t.si) + 4">{{ t.words }}</text>
        <path :d="line((h) => h.dew)" class="dew" />
        <path :d="line((h) => h.slab)" class="slab" />
        <g v-for="r in runs" :key="r.from">
          <rect
            :x="LEFT + r.from * step"
            :y="HEIGHT - BAND"
            :width="(r.to - r.from) * step"
            :height="BAND"
            :class="r.state"
          />
          <text
            v-if="(r.to - r.from) * step > 34"
            class="state"
            :x="LEFT + ((r.from + r.to) / 2) * step"
            :y="HEIGHT - 8"
          >
            {{ words[r.state] }}
          </text>
        </g>
      </svg>
      <p class="small" aria-live="off">
        <template v-if="shown"
          >{{ clockTime(shown.at, zone) }}: slab {{ session.format('temperature', shown.slab) }},
          {{ words[shown.state] }}. {{ shown.reason }}</template
        >
        <template v-else
          >Upper line: the slab, estimated and corrected by readings. Lower line: the dew point. Point at an
          hour for its reason.</template
        >
      </p>
    </template>
    <TypedWeather v-if="session.mayEdit" class="mt-3" />
  </div>
</template>

<style scoped>
.forecast {
  margin-top: 18px;
}
svg {
  width: 100%;
  display: block;
  margin-top: 6px;
}
text {
  font-size: 13px;
  fill: var(--ink);
}
.day {
  stroke: var(--line);
}
.slab,
.dew {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
}
.dew {
  stroke-width: 1.4;
  stroke-dasharray: 4 3;
}
rect {
  stroke: var(--ink);
  stroke-width: 0.6;
}
.go {
  fill: color-mix(in srgb, var(--good) 38%, var(--paper));
}
.wait {
  fill: url('#wait-hours');
}
.stop {
  fill: url('#stop-hours');
}
.stop-ink {
  fill: var(--stop);
  stroke: none;
}
.wait-ink {
  fill: var(--warn);
}
.state {
  text-anchor: middle;
  font-weight: 700;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
</style>
