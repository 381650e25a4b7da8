<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { CoatPlan } from '../../api/client'
import { slabWords } from '../job/slabWords'
import { useDesk } from '../job/useEditor'
import { nearTime, ownZone, toField } from '../../fields/clock'
import { useSession } from '../../session/session'
import TextField from '../../fields/TextField.vue'
import FilmRibbon from '../../drawing/FilmRibbon.vue'

/** When each film of a surface can be worked, coated again, walked on and used. */
const desk = useDesk()
const session = useSession()
const HOUR = 3600
const MILLIS = 1000
const MOST_HOURS = 96
const TICK = 96
const axis = ref<HTMLElement | null>(null)
const { width: measured } = useElementSize(axis)
const width = computed(() => Math.max(measured.value, 240))
const zone = computed(() => desk.plan.value.zone)
const start = computed(() => desk.file.value.job.start)
const coats = computed(() =>
  (desk.surfacePlan.value?.coats ?? []).flatMap((coat) => (coat.times ? [{ coat, times: coat.times }] : [])),
)
/** When the first of them begins, once that is planned. */
const first = computed(() => coats.value[0]?.times.start)
type Row = (typeof coats.value)[number]
function when(at: string): string {
  return nearTime(at, first.value, zone.value)
}

/** Where a coat begins on the shared axis, s. */
function begins(row: Row): number {
  return first.value && row.times.start
    ? (new Date(row.times.start).getTime() - new Date(first.value).getTime()) / MILLIS
    : 0
}
const rows = computed(() => coats.value.map((row) => ({ ...row, begin: begins(row) })))
function stage(row: Row, key: string): number {
  return row.times.stages.find((s) => s.key === key)?.after ?? 0
}
const whole = computed(() => {
  const ends = rows.value.map(
    (r) =>
      r.begin + r.times.spread + Math.max(stage(r, 'recoatUntil'), stage(r, 'foot'), stage(r, 'recoatFrom')),
  )
  return Math.min(Math.max(HOUR, ...ends) * 1.06, MOST_HOURS * HOUR)
})
const ticks = computed(() => {
  const steps = [0.25, 0.5, 1, 2, 3, 6, 12, 24]
  const room = Math.max(2, Math.floor(width.value / TICK))
  const step = (steps.find((s) => whole.value / HOUR / s <= room) ?? 24) * HOUR
  return Array.from({ length: Math.floor(whole.value / step) + 1 }, (_, i) => ({
    at: i * step,
    text: first.value
      ? when(new Date(new Date(first.value).getTime() + i * step * MILLIS).toISOString())
      : session.format('span', i * step),
  }))
})
const doubts = computed(() => {
  const all = rows.value.flatMap((r) => r.times.stages)
  return [
    all.some((s) => s.beyond)
      ? 'The forecast ends before the full cure; from there the mean of its last day is used.'
      : '',
    all.some((s) => s.outside) ? 'Times marked ~ are outside the temperature range of the sheet.' : '',
  ].filter(Boolean)
})
function told(row: Row): { name: string; text: string }[] {
  return row.times.stages.map((s) => ({
    name: s.name,
    text: `${s.outside ? '~ ' : ''}${s.at ? when(s.at) : session.format('span', s.after)}`,
  }))
}
function set(event: Event): void {
  const value = (event.target as HTMLInputElement).value
  desk.editor.edit('start', (f) => {
    f.job.start = value || undefined
    // A clock time means nothing without the place whose clock it is.
    f.job.zone = f.job.zone ?? ownZone()
  })
}
function title(coat: CoatPlan): string {
  return `Coat ${coat.number} · ${coat.name}`
}
</script>

<template>
  <section v-if="rows.length > 0" class="mt-4" data-test="film-times">
    <div class="row">
      <h3 class="grow">Curing times</h3>
      <TextField
        label="First pail poured, not before"
        type="datetime-local"
        :model-value="toField(start)"
        :disabled="!session.mayEdit"
        @change="set"
      />
    </div>
    <p class="small quiet">
      <template v-if="!first"
        >At a slab of {{ session.format('temperature', rows[0]?.times.slab ?? 0) }},
        {{ slabWords(desk.plan.value, desk.file.value.job.slab?.source) }}. Enter when the first pail is
        poured to see clock times{{ desk.file.value.job.forecast ? ', through the forecast' : '' }}.</template
      >
      <template v-else
        >{{
          desk.file.value.job.forecast
            ? 'Through the slab temperatures of the forecast'
            : `At a slab of ${session.format('temperature', desk.plan.value.slab.slab)}, ${slabWords(desk.plan.value, desk.file.value.job.slab?.source)}`
        }}.
        {{
          rows.some((r) => r.times.basis === 'booked')
            ? 'Booked coats are applied when they are booked, the others'
            : 'If the crew works without a break, each coat is applied'
        }}
        as soon as the one below can be recoated.</template
      >
      <template v-if="desk.surfacePlan.value?.begin && rows[0]?.times.basis === 'proposed'">
        Preparation, including drying, must start by
        <b>{{ when(desk.surfacePlan.value.begin) }}</b>.</template
      >
      {{ doubts.join(' ') }}
    </p>
    <ol class="films">
      <li v-for="r in rows" :key="r.coat.id" :data-test="`film-${r.coat.number}`">
        <p class="small">
          <b>{{ title(r.coat) }}</b>
          <template v-if="r.times.abrade && r.times.sanded">
            · abrade coat {{ r.coat.number - 1 }} {{ when(r.times.abrade) }} to
            {{ when(r.times.sanded) }}</template
          >
          <template v-if="r.times.begins">
            · first pail opened <b>{{ when(r.times.begins) }}</b>, {{ r.times.basis }}</template
          >
          · slab {{ session.format('temperature', r.times.slab) }}
        </p>
        <FilmRibbon :coat="r.coat" :times="r.times" :begin="r.begin" :whole="whole" />
        <ul class="stages small">
          <li v-for="s in told(r)" :key="s.name">
            {{ s.name }} <b>{{ s.text }}</b>
          </li>
        </ul>
      </li>
    </ol>
    <div ref="axis" aria-hidden="true">
      <svg :width="width" height="26" class="axis">
        <g v-for="t in ticks" :key="t.at">
          <path :d="`M${(t.at / whole) * width} 0V7`" />
          <text :x="Math.min((t.at / whole) * width + 3, width - 84)" y="19">{{ t.text }}</text>
        </g>
      </svg>
    </div>
  </section>
</template>

<style scoped>
.films {
  list-style: none;
  padding: 0;
}
.films > li {
  padding: 6px 0;
}
.stages {
  list-style: none;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
}
.axis {
  display: block;
}
.axis path {
  stroke: var(--quiet);
}
.axis text {
  font-size: 13px;
  fill: var(--quiet);
}
</style>
