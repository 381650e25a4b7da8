<script setup lang="ts">
import { computed, ref } from 'vue'
import type { RecordCoatDay, RecordReach } from '../../api/client'
import { useSession } from '../../session/session'
import DayField from './DayField.vue'
import type { DayAtJob } from './useDay'

/** Whether the pails reach the end: the area laid against the pails opened, and what to do about it. */
const props = defineProps<{
  here: DayAtJob
  reach: RecordReach
  coat: RecordCoatDay
  task: string
  pail: number
}>()
const session = useSession()
const typing = ref<'' | 'area' | 'mass'>('')
const area = ref<number>()
const mass = ref<number>()
const words: Record<RecordReach['verdict'], string> = {
  'as-planned': 'Not told yet',
  enough: 'Enough',
  stretch: 'Spread thinner',
  short: 'Not enough',
  thin: 'Too thin',
}
const whole = computed(() => props.reach.laid + props.reach.bare)
const share = (of: number): string => `${String((100 * of) / whole.value)}%`
const missing = computed(() => props.reach.misses ?? 0)
/** The lots that were logged, each with its pails. */
const lots = computed(() => {
  const pails = new Map<string, number>()
  for (const b of props.coat.batches)
    for (const lot of new Set(b.lots?.filter(Boolean))) pails.set(lot, (pails.get(lot) ?? 0) + 1)
  return [...pails].map(([lot, n]) => `${lot} × ${n}`).join(', ')
})
async function log(): Promise<void> {
  if (area.value === undefined) return
  if (await props.here.log('emptied', props.task, { area: area.value })) {
    typing.value = ''
    area.value = undefined
  }
}
async function count(): Promise<void> {
  if (mass.value === undefined) return
  if (await props.here.log('counted', `coat/${props.coat.id}/pour`, { mass: mass.value })) {
    typing.value = ''
    mass.value = undefined
  }
}
</script>

<template>
  <section class="enough" :class="reach.verdict" aria-labelledby="enough-title" data-test="enough">
    <h2 id="enough-title">Is it enough?</h2>
    <p class="verdict" :data-verdict="reach.verdict">{{ words[reach.verdict] }}</p>
    <div class="bar" aria-hidden="true">
      <i class="laid" :style="{ width: share(reach.laid) }" />
      <i :style="{ width: share(reach.bare - missing) }" />
      <i class="missing" :style="{ width: share(missing) }" />
    </div>
    <p>{{ reach.text }}</p>
    <p class="do" role="status">{{ reach.do }}</p>
    <ul v-if="reach.ends?.length" data-test="moved-tape">
      <li v-for="e in reach.ends" :key="e.batch">
        Section {{ e.batch }} ends <b>{{ session.format('length', Math.abs(e.shift)) }}</b>
        {{ e.shift < 0 ? 'before' : 'past' }} its tape, after {{ session.format('area', e.area) }} of its
        pail.
      </li>
    </ul>
    <p class="opened">
      {{ reach.opened }} of {{ reach.pails }} pails opened<template v-if="reach.spare !== undefined"
        >; {{ session.format('mass', reach.spare) }} at hand beside these</template
      ><template v-if="lots">; lots {{ lots }}</template
      >.
    </p>
    <form v-if="typing === 'area'" class="day-line" @submit.prevent="log">
      <DayField v-model="area" kind="area" label="Laid so far, by all pails" :read="here.read.value" />
      <button type="submit" class="touch main">After pail {{ pail }}</button>
      <button type="button" class="touch" @click="typing = ''">Cancel</button>
    </form>
    <form v-else-if="typing === 'mass'" class="day-line" @submit.prevent="count">
      <DayField v-model="mass" kind="mass" label="Unopened, all parts together" :read="here.read.value" />
      <button type="submit" class="touch main">At hand now</button>
      <button type="button" class="touch" @click="typing = ''">Cancel</button>
    </form>
    <div v-else class="acts">
      <slot />
      <button type="button" class="touch" data-test="type-area" @click="typing = 'area'">
        Type the area laid
      </button>
      <button type="button" class="touch" data-test="count-packs" @click="typing = 'mass'">
        Count unopened packs
      </button>
    </div>
  </section>
</template>

<style scoped>
.enough {
  grid-area: enough;
  display: grid;
  align-content: start;
  gap: 8px;
  padding: 12px 16px;
  background: var(--paper);
  border: 2px solid var(--ink);
  border-radius: 3px;
}
.stretch {
  border: 3px solid var(--warn);
}
.short,
.thin {
  border: 4px solid var(--stop);
}
h2,
p,
ul {
  margin: 0;
}
h2 {
  font-size: 1rem;
  color: var(--quiet);
}
.verdict {
  font-size: 1.6rem;
  font-weight: 720;
  line-height: 1.15;
}
.do {
  font-size: 1.25rem;
  font-weight: 680;
}
.opened {
  font-variant-numeric: tabular-nums;
}
.bar {
  display: flex;
  height: 22px;
  border: 1px solid var(--ink);
}
.bar .laid {
  background: var(--ink);
}
.bar .missing {
  background: repeating-linear-gradient(135deg, var(--stop) 0 6px, transparent 6px 11px);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
