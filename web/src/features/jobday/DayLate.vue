<script setup lang="ts">
import { computed, ref } from 'vue'
import type { RecordBatchDay, RecordKind } from '../../api/client'
import { minuteTime } from '../../fields/clock'
import type { DayAtJob } from './useDay'
import { kindWords } from './words'

/** A touch that was forgotten: what happened, and how many minutes ago. */
const props = defineProps<{
  here: DayAtJob
  batch: RecordBatchDay
  kinds: RecordKind[]
  parts: { a?: number; b?: number }
}>()
const emit = defineEmits<{ told: [] }>()
const MINUTE = 60_000
const LONG = 240
const now = computed(() => props.here.clock.second.value)
/** Nothing happened before what is logged of this batch. */
const most = computed(() => {
  const b = props.batch
  const last = [...b.lost.map((l) => l.at), b.meets, b.mixed, b.poured, b.spread, b.rolled]
    .filter((t) => t !== undefined)
    .at(-1)
  return last ? Math.max(0, Math.floor((now.value - new Date(last).getTime()) / MINUTE)) : LONG
})
const ago = ref(Math.min(5, most.value))
const step = (by: number): void => {
  ago.value = Math.min(most.value, Math.max(0, ago.value + by))
}
const when = computed(() => new Date(now.value - ago.value * MINUTE).toISOString())
async function tell(kind: RecordKind): Promise<void> {
  const warm = kind === 'meets' ? { a: props.parts.a, b: props.parts.b } : {}
  if (await props.here.log(kind, props.batch.id, { ...warm, noticed: when.value })) emit('told')
}
</script>

<template>
  <div class="late" role="group" aria-label="Forgotten entry" data-test="late">
    <button type="button" class="touch" aria-label="A minute earlier" @click="step(1)">− 1 min</button>
    <p aria-live="polite">
      <b>{{ ago }} min ago</b> {{ minuteTime(when, here.zone.value) }}
    </p>
    <button type="button" class="touch" aria-label="A minute later" @click="step(-1)">+ 1 min</button>
    <button
      v-for="k in kinds"
      :key="k"
      type="button"
      :class="['touch', { main: kinds.length === 1 }]"
      :data-late="k"
      @click="tell(k)"
    >
      {{ kindWords[k] }} then
    </button>
  </div>
</template>

<style scoped>
.late {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
p {
  margin: 0;
  min-width: 120px;
  text-align: center;
}
b {
  display: block;
  font-size: 1.25rem;
}
</style>
