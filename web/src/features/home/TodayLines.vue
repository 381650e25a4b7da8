<script setup lang="ts">
import { dataOf } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { api } from '../../api/client'
import type { Booked, JobLine } from '../../api/client'
import { minuteTime } from '../../fields/clock'
import LineStrip from './LineStrip.vue'

/** What is booked today, or on the next day on which anything is. */
const props = defineProps<{ jobs: JobLine[] }>()
const lines = ref<Booked[]>([])
const crews = ref<Record<string, string>>({})
const zone = ref<string>()
async function load(): Promise<void> {
  // That the server is away is said by the list of jobs.
  const data = await dataOf(api.GET('/api/roster/today'))
  lines.value = data?.lines ?? []
  crews.value = data?.crews ?? {}
  zone.value = data?.zone
}
void load()
const FIRST = 6
const day = computed(() => {
  const first = lines.value[0]
  if (!first) return ''
  const format = new Intl.DateTimeFormat(undefined, {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    timeZone: zone.value,
  })
  const told = format.format(new Date(Math.max(new Date(first.from).getTime(), Date.now())))
  return told === format.format(new Date()) ? 'Today' : told
})
const name = (job: string): string => props.jobs.find((j) => j.id === job)?.name ?? ''
</script>

<template>
  <LineStrip v-if="lines.length > 0" :title="day" label="Booked next" data-test="today">
    <router-link v-for="l in lines.slice(0, FIRST)" :key="l.job + l.task" :to="`/jobs/${l.job}/days`">
      <span class="at">{{ minuteTime(l.from, zone) }}</span> {{ l.title }}
      <span class="quiet"
        >{{ name(l.job) }}<template v-if="l.crew"> · {{ crews[l.crew] }}</template></span
      >
    </router-link>
    <router-link to="/roster" class="all">{{
      lines.length > FIRST ? `${lines.length - FIRST} more on the roster` : 'The roster'
    }}</router-link>
  </LineStrip>
</template>

<style scoped>
.at {
  font-weight: 700;
  font-variant-numeric: tabular-nums;
}
</style>
