<script setup lang="ts">
import { computed, ref, useId, watch } from 'vue'
import type { Bookable, Opening, RosterView } from '../api/client'
import { dayTime } from '../fields/clock'
import { useSession } from '../session/session'
import { keyOf } from './roster'
import { ROW, TOP, useRosterRows, type Ribbon, type RosterBy } from './useRosterRows'
import { HOUR, useRosterScale } from './useRosterScale'

/** Days across, crews or jobs down: bookings as ribbons, their windows behind them. */
const props = defineProps<{
  view: RosterView
  by: RosterBy
  hour: number
  chosen?: string
  only?: string
  movable?: boolean
  legal?: Opening[]
}>()
const session = useSession()
const emit = defineEmits<{
  choose: [key: string]
  grasp: [task: Bookable]
  over: [task: Bookable, crew: string, from: Date]
  drop: [task: Bookable, crew: string, from: Date]
}>()
const id = useId()
const BAR = 26
const step = computed(() => (props.view.step * HOUR) / 60)
const { until, width, x, days } = useRosterScale(() => props)
const { rows, ribbons, height } = useRosterRows(() => props)
const windows = computed(() => new Map(props.view.windows.map((w) => [keyOf(w), w])))
const broken = computed(() => new Set(props.view.broken.map(keyOf)))
const shifts = computed(() =>
  props.by === 'crew'
    ? props.view.crews
        .flatMap((c, row) => c.shifts.map((s) => ({ ...s, y: rows.value[row]?.y ?? 0 })))
        .filter((s) => new Date(s.from).getTime() < until.value)
    : [],
)
/** The days are wide enough for the weather. */
const WIDE = 5
/** What the forecast says of each day: of the one job that is shown, else of the first that has one. */
const weather = computed(() => {
  const all = props.view.weather
  const job = props.only ?? all[0]?.job
  return new Map(
    all
      .filter((d) => d.job === job)
      .map((d) => {
        const low = session.format('temperature', d.low)
        const high = session.format('temperature', d.high)
        return [new Date(d.from).getTime(), `${low.split(' ')[0]} to ${high}${d.rain ? ', rain' : ''}`]
      }),
  )
})
const lineOf = (crew: string): number => rows.value.find((r) => r.id === crew)?.y ?? 0
const frame = ref<HTMLElement | null>(null)
// What is chosen elsewhere comes into view.
watch(
  () => [props.chosen, props.hour],
  () => {
    const at = ribbons.value.find((r) => r.key === props.chosen)
    const box = frame.value
    if (!at || !box) return
    const from = x(at.booked.from)
    if (from < box.scrollLeft || x(at.booked.until) > box.scrollLeft + box.clientWidth)
      box.scrollLeft = from - box.clientWidth / 3
  },
  { flush: 'post' },
)
function words(r: Ribbon): string {
  const what = r.booked.readies
    ? r.task.name
    : r.task.number
      ? `${r.task.surface}, coat ${r.task.number}`
      : `${r.task.surface}: ${r.task.name}`
  const job = props.view.jobs.find((j) => j.id === r.task.job)?.name ?? ''
  const begin = dayTime(r.booked.from, props.view.zone)
  return `${job}. ${what}, ${begin} to ${dayTime(r.booked.until, props.view.zone)}${r.booked.logged ? `, logged as ${r.booked.logged}` : ''}${r.booked.pinned ? ', pinned' : ''}${r.booked.bought ? ', abraded first' : ''}`
}
const short = (r: Ribbon): string => (r.task.number ? `${r.task.number} ${r.task.surface}` : r.task.name)

const held = ref<{ ribbon: Ribbon; dx: number; dy: number; x: number; y: number; moved: boolean }>()
/** Pails are made ready for a pour: choosing that shows the pour. */
const choose = (ribbon: Ribbon): void => emit('choose', ribbon.key.split('/ready/')[0] ?? ribbon.key)
/** What has begun stays where it is. */
const moves = (ribbon: Ribbon): boolean =>
  !!props.movable &&
  props.by === 'crew' &&
  !ribbon.task.passing &&
  !ribbon.booked.readies &&
  !ribbon.booked.logged &&
  new Date(ribbon.booked.from) >= new Date(props.view.now)
function grasp(event: PointerEvent, ribbon: Ribbon): void {
  choose(ribbon)
  if (!moves(ribbon)) return
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  held.value = { ribbon, dx: 0, dy: 0, x: event.clientX, y: event.clientY, moved: false }
}
function drag(event: PointerEvent): void {
  const h = held.value
  if (!h) return
  const dx = event.clientX - h.x
  const dy = event.clientY - h.y
  const SLACK = 4
  if (!h.moved && Math.hypot(dx, dy) < SLACK) return
  if (!h.moved) emit('grasp', h.ribbon.task)
  held.value = { ...h, dx, dy, moved: true }
  const to = target(h.ribbon, stepsOf(dx), rowOf(h.ribbon, dy))
  if (to) emit('over', h.ribbon.task, to.crew, to.from)
}
function release(): void {
  const h = held.value
  held.value = undefined
  if (!h?.moved) return
  shift(h.ribbon, stepsOf(h.dx), rowOf(h.ribbon, h.dy))
}
const stepsOf = (dx: number): number => Math.round(((dx / props.hour) * HOUR) / step.value)
const rowOf = (ribbon: Ribbon, dy: number): number =>
  Math.min(rows.value.length - 1, Math.max(0, ribbon.row + Math.round(dy / ROW)))
/** Where a ribbon comes to that is moved by some steps and to a row. */
function target(ribbon: Ribbon, steps: number, row: number): { crew: string; from: Date } | undefined {
  const crew = rows.value[row]?.id
  if (!crew) return undefined
  return { crew, from: new Date(new Date(ribbon.booked.from).getTime() + steps * step.value) }
}
function shift(ribbon: Ribbon, steps: number, row: number): void {
  const to = target(ribbon, steps, row)
  if (to) emit('drop', ribbon.task, to.crew, to.from)
}
const arrows: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
function press(event: KeyboardEvent, ribbon: Ribbon): void {
  if (event.key === 'Enter' || event.key === ' ') {
    event.preventDefault()
    choose(ribbon)
    return
  }
  const by = arrows[event.key]
  if (!by || !moves(ribbon)) return
  event.preventDefault()
  const row = ribbon.row + by[1]
  if (row >= 0 && row < rows.value.length) shift(ribbon, by[0], row)
}
const place = (r: Ribbon): string =>
  held.value?.moved && held.value.ribbon.key === r.key ? `translate(${held.value.dx} ${held.value.dy})` : ''
</script>

<template>
  <div class="frame">
    <div class="names" :style="{ paddingTop: `${TOP}px` }">
      <div v-for="r in rows" :key="r.id" :style="{ height: `${r.height}px` }">
        <strong>{{ r.name }}</strong><span class="quiet">{{ r.note }}</span>
      </div>
    </div>
    <div ref="frame" class="scroll" tabindex="0" role="region" aria-label="The roster's days">
      <svg
        :width="width"
        :height="height"
        class="chart"
        role="group"
        aria-label="Who works where and when"
        data-test="roster-chart"
      >
        <defs>
          <pattern :id="`${id}-prep`" width="7" height="7" patternUnits="userSpaceOnUse">
            <path d="M0 7L7 0" class="hatch" />
          </pattern>
          <pattern :id="`${id}-over`" width="8" height="8" patternUnits="userSpaceOnUse">
            <path d="M0 4H8" class="hatch" />
          </pattern>
        </defs>
        <rect
          x="0"
          :y="TOP"
          :width="width"
          :height="height - TOP"
          class="night"
          :class="{ plain: by !== 'crew' }"
        />
        <rect
          v-for="(s, i) in shifts"
          :key="`s${i}`"
          :x="x(s.from)"
          :y="s.y + 1"
          :width="Math.max(0, x(s.until) - x(s.from))"
          :height="ROW - 2"
          class="shift"
          :fill="s.overtime ? `url(#${id}-over)` : undefined"
          :class="{ overtime: s.overtime }"
        />
        <g v-for="d in days" :key="d.at">
          <path :d="`M${x(d.at)} 0V${height}`" class="tick" />
          <text :x="x(d.at) + 5" y="15" class="day" :class="{ weekend: d.weekend }">{{ d.label }}</text>
          <text v-if="hour >= WIDE && weather.get(d.at)" :x="x(d.at) + 5" y="32" class="weather">
            {{ weather.get(d.at) }}
          </text>
        </g>
        <path v-for="r in rows" :key="r.id" :d="`M0 ${r.y + r.height}H${width}`" class="row" />
        <rect
          v-for="(l, i) in legal ?? []"
          :key="`l${i}`"
          :x="x(l.from)"
          :y="lineOf(l.crew) + 2"
          :width="Math.max(3, x(l.until) - x(l.from) + hour / 2)"
          :height="ROW - 4"
          class="legal"
          data-test="legal"
        />
        <g v-for="r in ribbons" :key="`w${r.id}`">
          <path
            v-if="r.task.number && windows.get(r.key)?.closes && windows.get(r.key)?.opens"
            :d="`M${x(windows.get(r.key)?.opens ?? 0)} ${r.y + ROW - 7}H${x(windows.get(r.key)?.closes ?? 0)}`"
            class="window"
            :class="{ on: chosen === r.key }"
            :stroke="r.task.color || 'currentColor'"
          />
        </g>
        <g
          v-for="r in ribbons"
          :key="r.id"
          class="ribbon"
          :class="{ on: chosen === r.key, broken: broken.has(r.key), movable: moves(r) }"
          :transform="place(r)"
          role="button"
          tabindex="0"
          :aria-label="`${short(r)}: ${words(r)}`"
          :aria-pressed="chosen === r.key"
          :data-test="`booked-${r.task.id}`"
          @pointerdown="grasp($event, r)"
          @pointermove="drag"
          @pointerup="release"
          @pointercancel="held = undefined"
          @keydown="press($event, r)"
        >
          <title>{{ words(r) }}</title>
          <path
            v-if="r.task.passing"
            :d="`M${x(r.booked.from)} ${r.y + 6}l7 10l-7 10l-7 -10z`"
            class="ready"
          />
          <template v-else>
            <rect
              :x="x(r.booked.from)"
              :y="r.y + 6"
              :width="Math.max(3, x(r.booked.until) - x(r.booked.from))"
              :height="BAR"
              class="bar"
              :fill="r.task.number ? r.task.color || 'var(--paper)' : 'var(--paper)'"
            />
            <rect
              v-if="!r.task.number"
              :x="x(r.booked.from)"
              :y="r.y + 6"
              :width="Math.max(3, x(r.booked.until) - x(r.booked.from))"
              :height="BAR"
              :fill="`url(#${id}-prep)`"
            />
            <svg
              v-if="x(r.booked.until) - x(r.booked.from) > 26"
              :x="x(r.booked.from) + 4"
              :y="r.y + 6"
              :width="x(r.booked.until) - x(r.booked.from) - 6"
              :height="BAR"
            >
              <text x="0" y="18" class="label">{{ short(r) }}</text>
            </svg>
            <path
              v-if="r.booked.logged"
              :d="`M${x(r.booked.from)} ${r.y + 6 + BAR}H${x(r.booked.until)}`"
              class="logged"
              :class="{ going: r.booked.logged === 'under way' }"
            />
            <circle v-if="r.booked.pinned" :cx="x(r.booked.from)" :cy="r.y + 6" r="5" class="pin" />
            <path
              v-if="r.booked.bought"
              :d="`M${x(r.booked.from)} ${r.y + 6 + BAR}h14v5h-14z`"
              class="bought"
            />
          </template>
        </g>
        <path :d="`M${x(view.now)} 18V${height}`" class="now" />
      </svg>
    </div>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.chart {
  display: block;
}
text {
  font-size: 13px;
  fill: var(--ink);
}
.night {
  fill: var(--faint);
}
.night.plain {
  fill: none;
}
.shift {
  fill: var(--paper);
}
.shift.overtime {
  opacity: 0.6;
}
.tick {
  stroke: var(--line);
}
.row {
  stroke: var(--line);
}
.day {
  font-weight: 640;
}
.weather {
  font-size: 13px;
  fill: var(--quiet);
}
.weekend {
  fill: var(--quiet);
  font-style: italic;
}
.frame {
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr);
  border: 1px solid var(--line);
}
.names {
  border-right: 1px solid var(--line);
  padding-left: 8px;
}
.names div {
  border-top: 1px solid var(--line);
  overflow: hidden;
  line-height: 1.35;
  padding-top: 4px;
}
.names strong,
.names span {
  display: block;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.bar {
  stroke: var(--ink);
}
.hatch {
  stroke: var(--ink);
  stroke-width: 1;
  opacity: 0.45;
  fill: none;
}
.label {
  font-weight: 700;
  fill: #12201d;
  paint-order: stroke;
  stroke: #fbfcfb;
  stroke-width: 3px;
}
.logged {
  stroke: var(--good);
  stroke-width: 5;
}
.logged.going {
  stroke-dasharray: 6 4;
}
.ribbon {
  cursor: pointer;
  outline: none;
}
.ribbon.movable {
  cursor: grab;
  touch-action: none;
}
.ribbon.on .bar,
.ribbon:focus-visible .bar {
  stroke-width: 3;
}
.ribbon.broken .bar {
  stroke: var(--stop);
  stroke-width: 4;
  stroke-dasharray: 6 3;
}
.ready {
  fill: var(--good);
  stroke: var(--ink);
}
.pin {
  fill: var(--ink);
}
.bought {
  fill: var(--warn);
}
.window {
  stroke-width: 4;
  opacity: 0.55;
  fill: none;
}
.window.on {
  stroke-width: 8;
  opacity: 1;
}
.legal {
  fill: var(--good);
  opacity: 0.35;
}
.now {
  stroke: var(--cure);
  stroke-width: 2;
}
</style>
