<script setup lang="ts">
import { computed } from 'vue'
import type { Hours } from '../../api/client'
import TickField from '../../fields/TickField.vue'
import TextField from '../../fields/TextField.vue'

/** The days and hours in which people work; the usual week where nobody said. */
const props = defineProps<{ hours?: Hours; locked?: boolean; fault?: string }>()
const emit = defineEmits<{ change: [hours: Hours] }>()
type Day = Hours['days'][number]
const days: Record<Day, string> = {
  mon: 'Mon',
  tue: 'Tue',
  wed: 'Wed',
  thu: 'Thu',
  fri: 'Fri',
  sat: 'Sat',
  sun: 'Sun',
}
const USUAL: Hours = {
  days: ['mon', 'tue', 'wed', 'thu', 'fri'],
  from: '07:00',
  until: '16:00',
  breaks: [{ from: '12:00', until: '12:30' }],
}
const now = computed(() => props.hours ?? USUAL)

function toggle(day: Day): void {
  const on = now.value.days.includes(day)
  const next = (Object.keys(days) as Day[]).filter((d) => (d === day ? !on : now.value.days.includes(d)))
  if (next.length > 0) emit('change', { ...now.value, days: next })
}
function set(by: Partial<Hours>): void {
  emit('change', { ...now.value, ...by })
}
function rest(side: 'from' | 'until', value: string): void {
  const first = now.value.breaks?.[0] ?? { from: '12:00', until: '12:00' }
  const changed = { ...first, [side]: value }
  const breaks = changed.from === changed.until ? undefined : [changed]
  set({ breaks })
}
const word = (event: Event): string => (event.target as HTMLInputElement).value
</script>

<template>
  <fieldset class="hours" :disabled="locked">
    <legend class="field-label">Working hours{{ hours ? '' : ' (the usual week)' }}</legend>
    <div class="days">
      <TickField
        v-for="(name, day) in days"
        :key="day"
        :label="name"
        :model-value="now.days.includes(day)"
        @update:model-value="toggle(day)"
      />
    </div>
    <div class="times">
      <TextField label="From" type="time" :model-value="now.from" @change="set({ from: word($event) })" />
      <TextField label="Until" type="time" :model-value="now.until" @change="set({ until: word($event) })" />
      <TextField
        label="Break from"
        type="time"
        :model-value="now.breaks?.[0]?.from"
        @change="rest('from', word($event))"
      />
      <TextField
        label="Break until"
        type="time"
        :model-value="now.breaks?.[0]?.until"
        @change="rest('until', word($event))"
      />
    </div>
    <p v-if="fault" class="field-told fault" role="alert">{{ fault }}</p>
  </fieldset>
</template>

<style scoped>
.hours {
  border: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
.days {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
.times {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(110px, 1fr));
  gap: 8px;
}
</style>
