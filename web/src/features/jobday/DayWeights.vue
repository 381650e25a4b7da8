<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { ref, watch } from 'vue'
import { api, type Card, type RecordBatchDay } from '../../api/client'
import { useSession } from '../../session/session'
import DayField from './DayField.vue'
import type { DayAtJob } from './useDay'

/** What the scale showed of each part, with what the ratio is worth and how to save it. */
const props = defineProps<{ here: DayAtJob; batch: RecordBatchDay; card: Card }>()
const session = useSession()
const masses = ref<(number | undefined)[]>([])
const { trouble, ask } = useRequest()
watch(
  () => props.batch.number,
  () => (masses.value = props.card.parts.map((_, i) => props.batch.masses?.[i])),
  { immediate: true },
)
function weigh(): void {
  const all = masses.value.filter((m) => m !== undefined)
  trouble.value = all.length < 2 ? 'Enter the mass of each part as the scale shows it.' : ''
  if (!trouble.value) void props.here.log('weighed', props.batch.id, { masses: all })
}
async function scale(n: number): Promise<void> {
  const away = 'The scale does not answer. Type what it shows.'
  const { data } = await ask(api.GET('/api/scale'), away, away)
  if (data?.stable) masses.value[n] = data.mass
  else if (data) trouble.value = 'The reading is not stable yet. Try again.'
}
async function tare(): Promise<void> {
  const away = 'The scale does not answer. Set it to zero by hand.'
  await ask(api.POST('/api/scale/tared'), away, away)
}
</script>

<template>
  <form class="day-line" @submit.prevent="weigh">
    <button type="button" class="touch" @click="tare">Scale to zero</button>
    <template v-for="(p, n) in card.parts" :key="p.name">
      <DayField
        v-model="masses[n]"
        kind="mass"
        :label="`${p.name}, wanted ${session.format('mass', p.mass)}`"
        :read="here.read.value"
      />
      <button type="button" class="touch" :aria-label="`From the scale: ${p.name}`" @click="scale(n)">
        From scale
      </button>
    </template>
    <button type="submit" class="touch main">Log weights</button>
    <p v-if="trouble" role="alert" class="verdict">{{ trouble }}</p>
    <p v-if="batch.ratio" class="verdict" :class="batch.ratio.verdict" role="status" data-test="ratio">
      {{ batch.ratio.text }}
    </p>
  </form>
</template>

<style scoped>
.verdict {
  flex-basis: 100%;
  margin: 0;
  font-size: 1.15rem;
  font-weight: 640;
}
.spoilt {
  color: var(--stop);
}
.doubtful {
  color: var(--warn);
}
</style>
