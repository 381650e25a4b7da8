<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, type PlanFile, type RecordIssue, type RecordOpinion } from '../../api/client'
import { entriesRead } from '../../fields/useReader'
import QuantityField from '../../fields/QuantityField.vue'
import { blankSurface, copyOf } from '../job/blank'
import { useSession } from '../../session/session'

/** What mends a fault as a job of its own: with its area, coats, materials and hours, and on the roster like any other. */
const props = defineProps<{ opinion: RecordOpinion; issue: RecordIssue }>()
const session = useSession()
const router = useRouter()
const coat = computed(() => props.issue.coats.find((c) => c.id === props.opinion.trouble.coat))
const section = computed(
  () => coat.value?.batches.find((b) => b.number === props.opinion.trouble.batch)?.card,
)
const area = ref<number | undefined>(section.value?.area)
const remedy = computed(() => props.opinion.ranked[0]?.remedy)
const hours = computed(() => (area.value ?? 0) * (remedy.value?.hours ?? 0))
const { trouble, ask } = useRequest()
const HOUR = 3600

async function make(): Promise<void> {
  trouble.value = await entriesRead()
  if (trouble.value) return
  const path = { job: props.issue.job }
  const gone = 'The server does not answer. Create the job when it is back.'
  const { data } = await ask(
    api.GET('/api/jobs/{job}', { params: { path } }),
    'The job cannot be read.',
    gone,
  )
  if (!data) return
  const from = data.file.job.surfaces.find((s) => s.id === coat.value?.surface)
  if (!from || !coat.value || !area.value) {
    trouble.value = 'Enter the repair area.'
    return
  }
  const surface = blankSurface(
    `${props.opinion.title}${section.value ? `, section ${section.value.section}` : ''}`,
  )
  surface.given = { area: area.value, note: `Marked by ${props.opinion.trouble.by}` }
  surface.survey = {
    substrate: 'old-coating',
    outdoors: from.survey?.outdoors,
    heated: from.survey?.heated,
  }
  surface.service = from.service
  if (remedy.value?.again) surface.coats = copyOf(from.coats.slice(coat.value.number - 1))
  const file: PlanFile = JSON.parse(JSON.stringify(data.file)) as PlanFile
  file.job.name = `Repair: ${data.file.job.name}`
  file.job.notes = `${remedy.value?.text ?? ''} About ${hours.value.toFixed(1)} person-hours of removal and abrading.`
  Object.assign(file.job, {
    done: undefined,
    due: undefined,
    start: undefined,
    stock: undefined,
    forecast: undefined,
    awaited: undefined,
  })
  file.job.surfaces = [surface]
  const made = await ask(api.POST('/api/jobs', { body: file }), 'The job was not created.', gone)
  if (made.data) await router.push(`/jobs/${made.data.id}/days`)
}
</script>

<template>
  <div v-if="session.mayEdit && remedy" class="repair">
    <p>
      <b>Remedy:</b> {{ remedy.text }}
      <template v-if="hours > 0"
        >About {{ session.format('span', hours * HOUR) }} of one person’s work.</template
      >
    </p>
    <QuantityField
      kind="area"
      label="Repair area"
      :model-value="area"
      positive
      @update:model-value="area = $event"
    />
    <v-btn :aria-label="`Create a repair job: ${opinion.title}`" @click="make">Create a repair job</v-btn>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.repair {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: end;
  margin-top: 6px;
}
p {
  flex: 1;
  min-width: 260px;
  margin: 0;
}
</style>
