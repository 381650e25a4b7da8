<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { RecordBatchDay, RecordCoat } from '../../api/client'
import MixCard from '../cards/MixCard.vue'
import { useSession } from '../../session/session'
import DayField from './DayField.vue'
import DayHours from './DayHours.vue'
import DayLots from './DayLots.vue'
import DayNotes from './DayNotes.vue'
import DayReadings from './DayReadings.vue'
import DayTouches from './DayTouches.vue'
import DayWeights from './DayWeights.vue'
import { keepPhoto } from '../../record/photos'
import type { Read } from './readings'
import type { DayAtJob } from './useDay'

/** What else is told of a batch or of the day: one kind at a time, in few touches. */
const props = defineProps<{
  here: DayAtJob
  plan: RecordCoat
  surface: string
  coats: number
  batch: RecordBatchDay
}>()
const parts = defineModel<{ a?: number; b?: number }>('parts', { required: true })
const session = useSession()
const names = {
  card: 'Card',
  parts: 'Parts °',
  weights: 'Weights',
  lots: 'Lots',
  film: 'Film',
  thrown: 'Broadcast',
  readings: 'Readings',
  note: 'Note',
  photo: 'Photo',
  hours: 'Hours',
  touches: 'Correct',
  lost: 'Bucket lost',
} as const
const open = ref<keyof typeof names | ''>('')
/** What is opened is brought on screen: hands in gloves do not scroll for it. */
const panel = useTemplateRef('panel')
watch(open, async () => {
  await nextTick()
  panel.value?.scrollIntoView({ block: 'nearest' })
})
const said = ref('')
const planned = computed(() => props.plan.batches.find((b) => b.number === props.batch.number))
const card = computed(() => planned.value?.card)
const film = ref<number>()
const mass = ref<number>()
const took = ref<number>()
const shown = computed(() =>
  Object.entries(names).filter(([key]) => key !== 'thrown' || Boolean(props.plan.throws)),
)
const readings = ref<Read>({})
watch(
  () => [props.batch.number, open.value],
  () => (said.value = ''),
)
async function done(sent: Promise<boolean>, words: string): Promise<void> {
  if (await sent) said.value = words
}
async function photo(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file || !session.me) return
  try {
    const id = await keepPhoto(session.me.id, props.here.issue.value?.job ?? '', props.plan.surface, file)
    await done(
      props.here.log('photo', props.batch.id, { photo: id }),
      'Kept; it is sent when there is a network.',
    )
  } catch (error) {
    said.value = error instanceof Error ? error.message : String(error)
  }
}
</script>

<template>
  <section aria-label="More to log" data-test="entries">
    <div class="tools" role="group" :aria-label="`Log of batch ${batch.number}`">
      <button
        v-for="[key, name] in shown"
        :key="key"
        type="button"
        class="touch"
        :class="{ warn: key === 'lost' }"
        :aria-expanded="open === key"
        @click="open = open === key ? '' : (key as keyof typeof names)"
      >
        {{ name }}
      </button>
    </div>
    <div v-if="open && card" ref="panel" class="panel">
      <h3>
        {{ names[open]
        }}<template v-if="open !== 'readings' && open !== 'hours'">: batch {{ batch.number }}</template>
      </h3>
      <MixCard
        v-if="open === 'card'"
        :card="card"
        :surface="surface"
        :coat="plan.number"
        :coats="coats"
        :zone="here.zone.value"
      />
      <div v-else-if="open === 'parts'" class="day-line">
        <DayField v-model="parts.a" kind="temperature" label="Part A" :read="here.read.value" />
        <DayField v-model="parts.b" kind="temperature" label="Part B" :read="here.read.value" />
        <p class="grow">
          Saved with the next “Start mixing A + B”, so that its use-by is for the pail at this temperature.
          <template v-if="batch.basis">Now: {{ batch.basis }}.</template>
        </p>
      </div>
      <DayWeights v-else-if="open === 'weights'" :here="here" :batch="batch" :card="card" />
      <DayLots v-else-if="open === 'lots'" :here="here" :plan="plan" :batch="batch" :card="card" />
      <form
        v-else-if="open === 'film'"
        class="day-line"
        @submit.prevent="film !== undefined && done(here.log('film', batch.id, { film }), 'Logged.')"
      >
        <DayField
          v-model="film"
          kind="film"
          :label="`Wet, wanted ${session.format('film', plan.wet)}`"
          :read="here.read.value"
        />
        <button type="submit" class="touch main">Log film of section {{ batch.number }}</button>
        <ul v-if="batch.films.length" class="grow">
          <li v-for="f in batch.films" :key="f.event">
            {{ session.format('film', f.film) }}<b v-if="f.bad">: {{ f.bad }}</b>
          </li>
        </ul>
      </form>
      <form
        v-else-if="open === 'thrown'"
        class="day-line"
        @submit.prevent="
          mass !== undefined &&
          took !== undefined &&
          done(here.log('thrown', batch.id, { mass, took }), 'Logged.')
        "
      >
        <DayField v-model="mass" kind="mass" label="One person threw" :read="here.read.value" />
        <DayField v-model="took" kind="span" label="in" :read="here.read.value" />
        <button type="submit" class="touch main">Log the broadcast</button>
        <p class="grow">
          Planned: {{ session.format('mass-rate', plan.throws ?? 0) }} a person.
          <template v-for="t in batch.thrown ?? []" :key="t.event">
            {{ session.format('mass', t.mass) }} in {{ session.format('span', t.took) }}.
          </template>
        </p>
      </form>
      <form
        v-else-if="open === 'readings'"
        @submit.prevent="done(here.log('reading', `coat/${plan.id}`, readings), 'Logged.')"
      >
        <DayReadings v-model="readings" :read="here.read.value">
          <button type="submit" class="touch main">Log readings</button>
        </DayReadings>
      </form>
      <DayNotes v-else-if="open === 'note'" :here="here" :task="batch.id" />
      <div v-else-if="open === 'photo'" class="day-line">
        <label class="touch main"
          >Take a photograph<input type="file" accept="image/*" capture="environment" hidden @change="photo"
        /></label>
      </div>
      <DayHours v-else-if="open === 'hours'" :here="here" :plan="plan" />
      <DayTouches
        v-else-if="open === 'touches'"
        :here="here"
        :batch="batch"
        :joins="(planned?.beside?.length ?? 0) > 0"
        :parts="parts"
      />
      <div v-else-if="open === 'lost'" class="day-line">
        <p>Carry it outside, leave it, never add water, never seal it. Its section still needs a batch.</p>
        <button
          v-for="why in ['went hot', 'was spilt', 'was mixed wrong']"
          :key="why"
          type="button"
          class="touch warn"
          @click="
            done(here.log('lost', batch.id, { text: why }), `Batch ${batch.number} is to be mixed once more.`)
          "
        >
          Yes, it {{ why }}
        </button>
      </div>
      <p v-if="said" role="status">{{ said }}</p>
    </div>
  </section>
</template>

<style scoped>
.tools {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(98px, 1fr));
  gap: 8px;
}
.tools .touch {
  padding: 8px 6px;
}
.panel {
  margin-top: 8px;
  padding: 12px 16px;
  background: var(--paper);
  border: 2px solid var(--ink);
  border-radius: 3px;
}
</style>
