<script setup lang="ts">
import { computed } from 'vue'
import type { RecordBatchDay, RecordKind } from '../../api/client'
import { minuteTime } from '../../fields/clock'
import { useSession } from '../../session/session'
import { kindWords } from './words'
import DayLate from './DayLate.vue'
import type { DayAtJob } from './useDay'

/** What is logged of a batch, each to be taken back; and what was forgotten, told later. */
const props = defineProps<{
  here: DayAtJob
  batch: RecordBatchDay
  joins: boolean
  parts: { a?: number; b?: number }
}>()
const session = useSession()
const touches = computed(() => {
  const b = props.batch
  const at: Partial<Record<RecordKind, string>> = {
    meets: b.meets,
    mixed: b.mixed,
    poured: b.poured,
    spread: b.spread,
    rolled: b.rolled,
    joined: b.joined,
  }
  const touched = Object.entries(b.events) as [RecordKind, string][]
  return [
    ...touched.map(([kind, event]) => ({ event, name: kindWords[kind], at: at[kind] })),
    ...b.films.map((f) => ({ event: f.event, name: `Film ${session.format('film', f.film)}`, at: f.at })),
    ...(b.thrown ?? []).map((x) => ({ event: x.event, name: kindWords.thrown, at: undefined })),
    ...Object.entries(b.cups ?? {}).map(([n, event]) => ({ event, name: `Cup ${n} poured`, at: undefined })),
    ...b.lost.map((l) => ({ event: l.event, name: kindWords.lost, at: l.at })),
  ]
})
const course: RecordKind[] = ['meets', 'mixed', 'poured', 'spread', 'rolled']
/** What can have happened since what is logged last. */
const forgotten = computed(() => {
  const b = props.batch
  const next = course.findLastIndex((k) => b.events[k] !== undefined) + 1
  return next > 0 && props.joins && !b.joined
    ? [...course.slice(next), 'joined' as const]
    : course.slice(next)
})
</script>

<template>
  <DayLate v-if="forgotten.length" :here="here" :batch="batch" :kinds="forgotten" :parts="parts" />
  <div class="day-line">
    <p v-if="touches.length === 0">Nothing of batch {{ batch.number }} is logged yet.</p>
    <button v-for="t in touches" :key="t.event" type="button" class="touch" @click="here.strike(t.event)">
      Void entry: {{ t.name }}{{ t.at ? `, ${minuteTime(t.at, here.zone.value)}` : '' }}
    </button>
  </div>
</template>
