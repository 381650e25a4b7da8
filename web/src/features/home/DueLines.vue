<script setup lang="ts">
import { useIntervalFn, useNow } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, type JobWait } from '../../api/client'
import { dataOf } from '../../api/useRequest'
import { dueTime } from '../../fields/clock'
import LineStrip from './LineStrip.vue'

/** What comes due on all jobs: tape, drips, the next coat and its window, the first use. */
const waits = ref<JobWait[]>([])
const FIRST = 5
const MINUTE = 60_000
const AGAIN = 5 * MINUTE
const whole = ref(false)
const now = useNow({ interval: MINUTE / 6 })
async function load(): Promise<void> {
  // That the server is away is said by the list of jobs.
  waits.value = (await dataOf(api.GET('/api/waits'))) ?? waits.value
}
void load()
useIntervalFn(load, AGAIN)
const lines = computed(() =>
  (whole.value ? waits.value : waits.value.slice(0, FIRST)).map((w) => ({
    ...w,
    place: w.place.startsWith(w.name) ? w.place : `${w.name}, ${w.place}`,
    when: dueTime(w.due, now.value.getTime(), w.zone),
    late: new Date(w.due) <= now.value,
  })),
)
</script>

<template>
  <LineStrip v-if="lines.length > 0" title="Comes due" label="Comes due on all jobs" warns data-test="due">
    <router-link v-for="w in lines" :key="w.job + w.place + w.text" :to="`/jobs/${w.job}/day`">
      <span class="at" :class="{ late: w.late }">{{ w.when }}</span> {{ w.place }}: {{ w.text
      }}<span v-if="w.otherwise" class="quiet">; otherwise {{ w.otherwise }}</span
      ><span v-if="w.who?.length" class="quiet"> ({{ w.who.join(', ') }})</span>
    </router-link>
    <v-btn v-if="!whole && waits.length > FIRST" size="small" variant="text" @click="whole = true"
      >{{ waits.length - FIRST }} more</v-btn
    >
  </LineStrip>
</template>

<style scoped>
.at {
  font-weight: 700;
  font-variant-numeric: tabular-nums;
}
.late {
  color: var(--warn);
}
</style>
