<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { useThrottleFn } from '@vueuse/core'
import { ref, watch } from 'vue'
import { api, type Job, type PlanFile, type Product, type PumpAnswer } from '../../api/client'
import { useSession } from '../../session/session'
import PumpFields from '../batches/PumpFields.vue'
import QuantityField from '../../fields/QuantityField.vue'
import SendToJob from './SendToJob.vue'
import WorkingDetails from '../../fields/WorkingDetails.vue'

/** How often each pump is pressed for a batch. */
const props = defineProps<{ id: string; sheet: Product; hardener?: string; volume: number }>()
const session = useSession()
type Pumps = NonNullable<NonNullable<Job['mixing']>['pumps']>
const pumps = ref<Pumps>({ built: 'equal', a: 30e-6, b: 30e-6 })
const wanted = ref(props.volume)
const answer = ref<PumpAnswer | null>(null)
const { trouble, newest } = useRequest()

async function work(): Promise<void> {
  const told = await newest(
    api.POST('/api/bench/{id}/pump', {
      params: { path: { id: props.id } },
      body: { hardener: props.hardener, pumps: pumps.value, volume: wanted.value },
    }),
    'this cannot be counted',
    'The server does not answer; count again when it is back.',
  )
  if (!told) return
  answer.value = told.data ?? null
  if (!told.data && told.status > 0) trouble.value = `Not with these pumps: ${trouble.value}.`
}
const soon = useThrottleFn(work, 60, true)
watch([pumps, wanted, () => props.hardener, () => props.id], () => void soon(), {
  immediate: true,
  deep: true,
})
function whole(file: PlanFile): void {
  file.job.mixing = { ...file.job.mixing, pumps: pumps.value }
}
</script>

<template>
  <section data-test="pump-tool">
    <h2>Pumps</h2>
    <QuantityField v-model="wanted" kind="volume" label="Batch to be pumped" positive />
    <PumpFields :pumps="pumps" open @update:pumps="(p) => p && (pumps = p)" />
    <p v-if="trouble" role="alert" class="mt-2">{{ trouble }}</p>
    <template v-if="answer">
      <p class="strokes mt-2" data-test="bench-strokes">
        <b>{{ answer.strokes.a }}</b> of A, <b>{{ answer.strokes.b }}</b> of B
        <span class="small quiet"
          >{{ session.format('volume', answer.strokes.volume) }}, off by
          {{ session.format('fraction', Math.abs(answer.strokes.off)) }}</span
        >
      </p>
      <p class="small">{{ answer.strokes.text }}</p>
      <WorkingDetails :workings="answer.workings" />
      <SendToJob what="pumps" :sheet="sheet" :whole="whole" />
    </template>
  </section>
</template>

<style scoped>
h2 {
  font-size: 1.05rem;
  margin: 14px 0 12px;
}
.strokes b {
  font-size: 1.6rem;
}
</style>
