<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { ref, watch } from 'vue'
import { api, type PlanFile, type Product, type RatioCheck } from '../../api/client'
import { useSession } from '../../session/session'
import QuantityField from '../../fields/QuantityField.vue'
import SendToJob from './SendToJob.vue'
import WorkingDetails from '../../fields/WorkingDetails.vue'

/** Was a batch weighed right, and if not, how is it saved. */
const props = defineProps<{ id: string; sheet: Product; hardener?: string; life: number }>()
const session = useSession()
const masses = ref<(number | undefined)[]>([])
const elapsed = ref(0)
const bucket = ref(0.02)
const check = ref<RatioCheck | null>(null)
const { trouble, ask } = useRequest()
const MOST_NOTES = 4000
const words = { good: 'Good', doubtful: 'Doubtful', spoilt: 'Do not use as it is' }

watch(
  () => [props.id, props.hardener],
  () => {
    check.value = null
    masses.value = []
  },
)
const { trouble: onScale, ask: askScale } = useRequest()
const SCALE_AWAY = 'The server does not answer; type what the scale shows.'
/** Tares the scale for the next part. */
async function tare(): Promise<void> {
  const { ok } = await askScale(api.POST('/api/scale/tared'), 'The scale cannot be tared.', SCALE_AWAY)
  if (ok) onScale.value = 'Tared: pour the next part.'
}
/** Takes what the scale shows for a part. */
async function take(part: number): Promise<void> {
  const { data } = await askScale(api.GET('/api/scale'), 'The scale cannot be read.', SCALE_AWAY)
  if (!data) return
  if (!data.stable) {
    onScale.value = `${session.format('mass', data.mass)} and rising: wait until the pour is over.`
  } else {
    masses.value[part] = data.mass
    onScale.value = `Read ${session.format('mass', data.mass)} from the scale.`
  }
}
async function judge(): Promise<void> {
  if (props.sheet.components.some((_, i) => !masses.value[i])) {
    check.value = null
    return
  }
  const { data } = await ask(
    api.POST('/api/bench/{id}/ratio', {
      params: { path: { id: props.id }, query: { hardener: props.hardener } },
      body: {
        masses: props.sheet.components.map((_, i) => masses.value[i] ?? 0),
        elapsed: elapsed.value,
        life: props.life,
        bucket: bucket.value,
      },
    }),
    'These weights cannot be judged.',
    'The server does not answer. Enter the weights again when it is back.',
  )
  if (data) check.value = data
}
/** A verdict belongs to the record of a job: it stands in its notes. */
function noted(file: PlanFile): void {
  const weighed = props.sheet.components
    .map((c, i) => `${c.name} ${session.format('mass', masses.value[i] ?? 0)}`)
    .join(', ')
  const line = `${new Date().toISOString().slice(0, 16).replace('T', ' ')} UTC, ${props.sheet.name} weighed ${weighed}: ${check.value?.text ?? ''}`
  file.job.notes = [file.job.notes, line].filter(Boolean).join('\n').slice(0, MOST_NOTES)
}
watch([masses, elapsed, bucket], () => void judge(), { deep: true })
</script>

<template>
  <section data-test="ratio">
    <h2>Ratio check</h2>
    <div class="pair">
      <QuantityField
        v-for="(c, i) in sheet.components"
        :key="c.name"
        kind="mass"
        :label="`${c.name} on the scale`"
        :model-value="masses[i]"
        positive
        @update:model-value="masses[i] = $event"
      />
      <QuantityField
        kind="span"
        label="Time since mixing"
        :model-value="elapsed"
        @update:model-value="elapsed = $event"
      />
      <QuantityField
        kind="volume"
        label="Bucket, to the brim"
        :model-value="bucket"
        positive
        @update:model-value="bucket = $event"
      />
    </div>
    <div class="row small mt-1">
      <v-btn v-if="session.mayEdit" size="small" variant="text" @click="tare">Tare the scale</v-btn>
      <v-btn
        v-for="(c, i) in sheet.components"
        :key="c.name"
        size="small"
        variant="text"
        :data-test="`weigh-${c.name}`"
        @click="take(i)"
        >Read {{ c.name }} from the scale</v-btn
      >
      <span aria-live="polite" data-test="on-scale">{{ onScale }}</span>
    </div>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <div v-if="check" :class="['verdict', check.verdict]" aria-live="assertive">
      <strong>{{ words[check.verdict] }}</strong>
      <p>{{ check.text }}</p>
      <p v-for="s in check.save" :key="s.name" class="save">
        + {{ session.format('mass', s.mass) }} {{ s.name }}
        <span class="quiet">({{ session.format('volume', s.volume) }})</span>
      </p>
      <p class="small quiet">
        As weighed {{ check.true.map((v) => session.format('ratio', v)).join(' : ') }} by mass, right is
        {{ check.right.map((v) => session.format('ratio', v)).join(' : ') }}. To 2 % good, to 5 % doubtful:
        common practice, the sheet rules.
      </p>
    </div>
    <template v-if="check">
      <WorkingDetails :workings="check.workings" />
      <SendToJob what="verdict" :sheet="sheet" :whole="noted" />
    </template>
    <p v-else class="small quiet">Enter what the scale showed for each part.</p>
  </section>
</template>

<style scoped>
.verdict {
  margin-top: 8px;
  padding: 8px 14px;
  border-left: 8px solid var(--good);
}
.doubtful {
  border-left: 8px double var(--warn);
}
.spoilt {
  border-left: 8px dotted var(--stop);
}
.save {
  font-size: 1.5rem;
  font-weight: 720;
}
h2 {
  font-size: 1.05rem;
}
</style>
