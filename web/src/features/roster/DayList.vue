<script setup lang="ts">
import { computed, ref } from 'vue'
import type { RosterView } from '../../api/client'
import { minuteTime } from '../../fields/clock'
import { keyOf, standing, tasksOf } from '../../drawing/roster'

/** What is booked, day by day: the week sheet on paper and the list on a phone. */
const props = defineProps<{ view: RosterView; crew?: string; job?: string; chosen?: string }>()
const emit = defineEmits<{ choose: [key: string] }>()
const SHOWN = 21 * 86_400_000
const days = computed(() => {
  const tasks = tasksOf(props.view)
  const crews = new Map(props.view.crews.map((c) => [c.id, c.name]))
  const jobs = new Map(props.view.jobs.map((j) => [j.id, j.name]))
  const format = new Intl.DateTimeFormat(undefined, {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    timeZone: props.view.zone,
  })
  const promised = new Map(props.view.promises.map((p) => [keyOf(p), p.at]))
  const now = new Date(props.view.now).getTime()
  const all = new Map<
    string,
    { key: string; at: string; crew: string; job: string; what: string; color?: string; passing?: boolean }[]
  >()
  for (const b of standing(props.view)) {
    const task = tasks.get(keyOf(b))
    if (!task || (props.job && b.job !== props.job) || (props.crew && b.crew !== props.crew)) continue
    if (
      !props.job &&
      (new Date(b.until).getTime() < now - SHOWN / 21 || new Date(b.from).getTime() > now + SHOWN)
    )
      continue
    const day = format.format(new Date(b.from))
    const line = {
      key: keyOf(b),
      at: `${minuteTime(b.from, props.view.zone)}–${minuteTime(b.until, props.view.zone)}`,
      crew: crews.get(b.crew ?? '') ?? '',
      job: jobs.get(b.job) ?? '',
      what: b.readies || task.name.includes(task.surface) ? task.name : `${task.surface}: ${task.name}`,
      color: task.color,
      passing: task.passing,
    }
    if (b.logged) line.what += `, logged as ${b.logged}`
    if (task.passing) line.at = `from ${minuteTime(promised.get(keyOf(b)) ?? b.until, props.view.zone)}`
    all.set(day, [...(all.get(day) ?? []), line])
  }
  return [...all].map(([day, lines]) => ({ day, lines }))
})
/** A phone shows the next days first; paper always has all of them. */
const FIRST = 2
const whole = ref(false)
const later = computed(() => Math.max(0, days.value.length - FIRST))
</script>

<template>
  <div class="days" data-test="day-list">
    <section v-for="(d, i) in days" :key="d.day" class="day" :class="{ later: i >= FIRST && !whole }">
      <h3>{{ d.day }}</h3>
      <ul>
        <li v-for="l in d.lines" :key="l.key">
          <button type="button" class="line" :class="{ on: chosen === l.key }" @click="emit('choose', l.key)">
            <span class="at">{{ l.at }}</span>
            <span class="body">
              <svg class="chip" aria-hidden="true">
                <rect width="14" height="14" :fill="l.color || 'none'" stroke="currentColor" />
              </svg>
              <span
                >{{ l.what }}<span v-if="!job" class="quiet"> · {{ l.job }}</span
                ><span v-if="l.crew && !crew" class="quiet"> · {{ l.crew }}</span></span
              >
            </span>
          </button>
        </li>
      </ul>
    </section>
    <v-btn v-if="later && !whole" class="more no-print" size="small" @click="whole = true"
      >{{ later }} more {{ later === 1 ? 'day' : 'days' }}</v-btn
    >
    <p v-if="days.length === 0" class="quiet">Nothing is booked here.</p>
  </div>
</template>

<style scoped>
.days {
  columns: 2 380px;
  column-gap: 24px;
}
@media screen and (max-width: 760px) {
  .later {
    display: none;
  }
}
@media (min-width: 760.1px) {
  .more {
    display: none;
  }
}
.day {
  break-inside: avoid;
  margin-bottom: 14px;
}
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
.line {
  font: inherit;
  color: inherit;
  text-align: left;
  background: none;
  border: 0;
  border-top: 1px solid var(--line);
  padding: 6px 4px;
  width: 100%;
  display: grid;
  grid-template-columns: 158px 1fr;
  gap: 8px;
  cursor: pointer;
}
.line.on {
  background: var(--faint);
}
.at {
  white-space: nowrap;
  font-weight: 700;
  font-variant-numeric: tabular-nums;
}
.body {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.chip {
  flex: none;
}
@media (max-width: 480px) {
  .line {
    grid-template-columns: 1fr;
    gap: 0;
  }
}
</style>
