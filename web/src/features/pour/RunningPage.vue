<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { computed, ref, watch } from 'vue'
import { api, type PourPlan } from '../../api/client'
import PourRibbons from '../../drawing/PourRibbons.vue'
import SectionPlan from '../../drawing/SectionPlan.vue'
import { minuteTime } from '../../fields/clock'
import IssueMark from '../cards/IssueMark.vue'
import { usePlannedJob } from '../job/usePlannedJob'
import RunningList from './RunningList.vue'
import { roles } from './words'

/** The hour of a pour on one sheet of paper: by the clock, with the map and what to have ready. */
const props = defineProps<{ id: string; coat: string }>()
const { job, trouble, issues } = usePlannedJob(props.id)
const pour = ref<PourPlan>()
const { trouble: failed, ask } = useRequest()
const MILLIS = 1000
const MINUTE = 60
const here = computed(() => {
  for (const plan of job.value?.plan.surfaces ?? []) {
    const coat = plan.coats.find((c) => c.id === props.coat)
    const surface = job.value?.file.job.surfaces.find((s) => s.id === plan.id)
    if (coat && surface) return { plan, coat, surface }
  }
  return undefined
})
async function work(): Promise<void> {
  const { data } = await ask(
    api.POST('/api/jobs/{job}/pour', {
      params: { path: { job: props.id } },
      body: { coat: props.coat },
    }),
    'This pour cannot be calculated.',
  )
  pour.value = data
}
watch(
  () => job.value?.revision,
  () => void work(),
  { immediate: true },
)
function told(s: number): string {
  const start = pour.value?.start
  if (start) return minuteTime(new Date(start).getTime() + s * MILLIS, job.value?.plan.zone)
  const minutes = Math.round(Math.abs(s) / MINUTE)
  return `${s < 0 && minutes > 0 ? '−' : ''}${Math.floor(minutes / MINUTE)}:${String(minutes % MINUTE).padStart(2, '0')}`
}
function print(): void {
  window.print()
}
</script>

<template>
  <div class="page running">
    <div class="row mb-3 no-print">
      <v-btn variant="text" :to="`/jobs/${id}/pour`">‹ Back to the pour</v-btn>
      <h1 class="grow">Pour schedule</h1>
      <v-btn color="primary" variant="flat" data-test="print" @click="print">Print</v-btn>
    </div>
    <p v-if="trouble || failed" role="alert">{{ trouble || failed }}</p>
    <p v-else-if="!pour || !here" class="quiet">Simulating the pour …</p>
    <div v-else class="paper sheet" data-test="running-sheet">
      <div class="row">
        <h2 class="grow">
          {{ job?.file.job.name }}: {{ here.surface.name }}, coat {{ pour.number }}, {{ pour.name }}
        </h2>
        <IssueMark v-if="issues" :issues="issues" :zone="job?.plan.zone" :path="`/jobs/${id}/day/${coat}`" />
        <strong>{{ pour.start ? `first pour ${told(0)}` : 'times count from the first pour' }}</strong>
      </div>
      <RunningList :pour="pour" :told="told" />
      <PourRibbons :pour="pour" :color="here.coat.color" :told="told" />
      <div class="lower">
        <SectionPlan v-if="here.plan.course" :surface="here.surface" :plan="here.plan" :coat="here.coat" />
        <div class="small">
          <h3>People</h3>
          <ul>
            <li v-for="(p, i) in pour.crew" :key="i">
              <strong>{{ p.name }}</strong> {{ p.roles.map((r) => roles[r]).join(', ') }}
            </li>
          </ul>
          <h3>Have ready</h3>
          <ul>
            <li v-for="a in here.coat.ahead ?? []" :key="a">{{ a }}</li>
          </ul>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.paper {
  padding: 16px 20px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
}
.lower {
  display: grid;
  grid-template-columns: 1.2fr 1fr;
  gap: 16px;
}
ul {
  padding-left: 18px;
  margin: 2px 0 8px;
}
@media screen and (max-width: 900px) {
  .lower {
    grid-template-columns: 1fr;
  }
}
@media print {
  .page {
    padding: 0;
    max-width: none;
  }
  .paper {
    border: 0;
    padding: 0;
    gap: 6px;
    font-size: 12px;
    break-inside: avoid;
  }
  .paper h2 {
    font-size: 16px;
  }
  .lower .small {
    font-size: 12px;
    line-height: 1.25;
  }
  .lower :deep(svg) {
    max-height: 230px;
  }
}
</style>
