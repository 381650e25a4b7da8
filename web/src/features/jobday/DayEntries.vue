<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import {
  api,
  type RecordBatchDay,
  type RecordCoat,
  type RecordCoatDay,
  type RecordKind,
} from '../../api/client'
import { minuteTime } from '../../fields/clock'
import { useSession } from '../people/session'
import DayField from './DayField.vue'
import { keepPhoto } from './photo'
import { kindWords } from './words'
import type { DayAtJob } from './useDay'

/** What else is told of a batch or of the day: one kind at a time, in few touches. */
const props = defineProps<{ here: DayAtJob; coat: RecordCoatDay; plan: RecordCoat; batch: RecordBatchDay }>()
const parts = defineModel<{ a?: number; b?: number }>('parts', { required: true })
const session = useSession()
type Open =
  '' | 'touches' | 'parts' | 'weights' | 'lots' | 'film' | 'readings' | 'note' | 'lost' | 'photo' | 'hours'
const open = ref<Open>('')
const said = ref('')
const names: Record<Exclude<Open, ''>, string> = {
  parts: 'Parts °',
  weights: 'Weights',
  lots: 'Lots',
  film: 'Film',
  readings: 'Readings',
  note: 'Note',
  photo: 'Photo',
  hours: 'Hours',
  touches: 'Correct',
  lost: 'Bucket lost',
}
const card = computed(() => props.plan.batches.find((b) => b.number === props.batch.number)?.card)
const masses = ref<(number | undefined)[]>([])
const lots = ref<string[]>([])
const expires = ref('')
const film = ref<number>()
const slab = ref<number>()
const air = ref<number>()
const humidity = ref<number>()
const text = ref('')
const who = ref('')
watch(
  () => [props.batch.number, open.value],
  () => {
    said.value = ''
    masses.value = (card.value?.parts ?? []).map((_, i) => props.batch.masses?.[i])
    lots.value = (card.value?.parts ?? []).map((_, i) => props.batch.lots?.[i] ?? lots.value[i] ?? '')
  },
)
const notes = [
  'Thin spot brushed in',
  'Hair or lint taken out',
  'Puddle spread',
  'Drip cut off',
  'Roller marks rolled again',
  'Insects',
  'Draught: door closed',
  'Bubbles: spiked again',
]
async function done(sent: Promise<boolean>, words: string): Promise<void> {
  if (await sent) said.value = words
}
function weigh(): void {
  const all = masses.value.filter((m) => m !== undefined)
  if (all.length < 2) {
    said.value = 'Enter the mass of each part as the scale shows it.'
    return
  }
  void done(props.here.log('weighed', props.batch.id, { masses: all }), '')
}
async function scale(n: number): Promise<void> {
  try {
    const { data } = await api.GET('/api/scale')
    if (data) masses.value[n] = data.mass
    else said.value = 'The scale does not answer. Type what it shows.'
  } catch {
    said.value = 'The scale does not answer. Type what it shows.'
  }
}
async function scan(n: number, event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  const Detector = window.BarcodeDetector
  if (!file || !Detector) return
  const found = await new Detector().detect(await createImageBitmap(file))
  if (found[0]) lots.value[n] = found[0].rawValue
  else said.value = 'No code could be read in this picture. Take it nearer, or type the lot.'
}
/** The lots in stock of a part, as they were when the plan was issued. */
const PARTS = ['A', 'B', 'C']
const stocked = (n: number): NonNullable<RecordCoat['lots']> =>
  (props.plan.lots ?? []).filter((l) => l.part === 'kit' || l.part === PARTS[n])
function pickLot(lot: string | undefined): void {
  const found = (props.plan.lots ?? []).find((l) => l.lot === lot)
  if (found?.expires) expires.value = found.expires
}
const scans = 'BarcodeDetector' in window
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
/** What is logged of the batch, each to be taken back. */
const touches = computed(() => {
  const b = props.batch
  const at: Partial<Record<RecordKind, string>> = {
    meets: b.meets,
    mixed: b.mixed,
    poured: b.poured,
    spread: b.spread,
    rolled: b.rolled,
    joined: b.joined,
  }
  const single = Object.entries(b.events).map(([kind, event]) => {
    const time = at[kind as RecordKind]
    return {
      event,
      name: kindWords[kind as RecordKind],
      at: time ? minuteTime(time, props.here.zone.value) : '',
    }
  })
  const films = b.films.map((f) => ({
    event: f.event,
    name: `Film ${session.format('film', f.film)}`,
    at: '',
  }))
  const lost = b.lost.map((l) => ({
    event: l.event,
    name: 'Bucket lost',
    at: minuteTime(l.at, props.here.zone.value),
  }))
  return [...single, ...films, ...lost]
})
const mine = computed(() => props.here.day.value?.hours.find((h) => h.person === session.me?.name && !h.to))
</script>

<template>
  <section aria-label="More to log" data-test="entries">
    <div class="tools" role="group" :aria-label="`Log of batch ${batch.number}`">
      <button
        v-for="(name, key) in names"
        :key="key"
        type="button"
        class="touch"
        :class="{ warn: key === 'lost' }"
        :aria-expanded="open === key"
        @click="open = open === key ? '' : key"
      >
        {{ name }}
      </button>
    </div>
    <div v-if="open" class="panel">
      <h3>
        {{ names[open]
        }}<template v-if="open !== 'readings' && open !== 'hours'">: batch {{ batch.number }}</template>
      </h3>
      <div v-if="open === 'parts'" class="line">
        <DayField v-model="parts.a" kind="temperature" label="Part A" :read="here.read" />
        <DayField v-model="parts.b" kind="temperature" label="Part B" :read="here.read" />
        <p class="grow">
          Taken with the next “A meets B”, so that its use-by is of the pail as it is.
          <template v-if="batch.basis">Now: {{ batch.basis }}.</template>
        </p>
      </div>
      <form v-else-if="open === 'weights'" class="line" @submit.prevent="weigh">
        <template v-for="(p, n) in card?.parts ?? []" :key="p.name">
          <DayField
            v-model="masses[n]"
            kind="mass"
            :label="`${p.name}, wanted ${session.format('mass', p.mass)}`"
            :read="here.read"
          />
          <button type="button" class="touch" :aria-label="`From the scale: ${p.name}`" @click="scale(n)">
            From scale
          </button>
        </template>
        <button type="submit" class="touch main">Log weights</button>
        <p v-if="batch.ratio" class="verdict" :class="batch.ratio.verdict" role="status" data-test="ratio">
          {{ batch.ratio.text }}
        </p>
      </form>
      <form
        v-else-if="open === 'lots'"
        class="line"
        @submit.prevent="done(here.log('lot', batch.id, { lots, expires: expires || undefined }), 'Logged.')"
      >
        <template v-for="(p, n) in card?.parts ?? []" :key="p.name">
          <label class="text"
            >Lot of {{ p.name
            }}<input v-model="lots[n]" maxlength="60" :list="`lots-${n}`" @change="pickLot(lots[n])"
          /></label>
          <datalist :id="`lots-${n}`">
            <option v-for="l in stocked(n)" :key="l.lot" :value="l.lot">
              {{ l.expires ? `expires ${l.expires}` : '' }}
            </option>
          </datalist>
          <label v-if="scans" class="touch"
            >Scan<input type="file" accept="image/*" capture="environment" hidden @change="scan(n, $event)"
          /></label>
        </template>
        <label class="text">Expires<input v-model="expires" type="date" /></label>
        <button type="submit" class="touch main">Log lots</button>
      </form>
      <form
        v-else-if="open === 'film'"
        class="line"
        @submit.prevent="film !== undefined && done(here.log('film', batch.id, { film }), 'Logged.')"
      >
        <DayField
          v-model="film"
          kind="film"
          :label="`Wet, wanted ${session.format('film', plan.wet)}`"
          :read="here.read"
        />
        <button type="submit" class="touch main">Log film of section {{ batch.number }}</button>
        <ul v-if="batch.films.length" class="grow">
          <li v-for="f in batch.films" :key="f.event">
            {{ session.format('film', f.film) }}<b v-if="f.bad">: {{ f.bad }}</b>
          </li>
        </ul>
      </form>
      <form
        v-else-if="open === 'readings'"
        class="line"
        @submit.prevent="done(here.log('reading', `coat/${plan.id}`, { slab, air, humidity }), 'Logged.')"
      >
        <DayField v-model="slab" kind="temperature" label="Slab" :read="here.read" />
        <DayField v-model="air" kind="temperature" label="Air" :read="here.read" />
        <DayField v-model="humidity" kind="fraction" label="Humidity" :read="here.read" />
        <button type="submit" class="touch main">Log readings</button>
      </form>
      <div v-else-if="open === 'note'" class="line">
        <button
          v-for="n in notes"
          :key="n"
          type="button"
          class="touch"
          @click="done(here.log('note', batch.id, { text: n }), `Logged: ${n}.`)"
        >
          {{ n }}
        </button>
        <form
          class="line"
          @submit.prevent="
            done(
              here.log(who ? 'deviation' : 'note', batch.id, { text, reason: who || undefined }),
              'Logged.',
            )
          "
        >
          <label class="text">In own words<input v-model="text" maxlength="600" required /></label>
          <label class="text"
            >Who decided, where the plan was left<input v-model="who" maxlength="120"
          /></label>
          <button type="submit" class="touch main">Log it</button>
        </form>
      </div>
      <div v-else-if="open === 'photo'" class="line">
        <label class="touch main"
          >Take a photograph<input type="file" accept="image/*" capture="environment" hidden @change="photo"
        /></label>
      </div>
      <div v-else-if="open === 'hours'" class="line">
        <p>{{ mine ? 'You are at work here.' : 'You are not at work here.' }}</p>
        <button
          v-if="!mine"
          type="button"
          class="touch main"
          @click="here.log('began', `coat/${plan.id}/pour`)"
        >
          I begin
        </button>
        <button v-else type="button" class="touch main" @click="here.log('ended', `coat/${plan.id}/pour`)">
          I end
        </button>
      </div>
      <div v-else-if="open === 'touches'" class="line">
        <p v-if="touches.length === 0">Nothing of batch {{ batch.number }} is logged yet.</p>
        <button
          v-for="t in touches"
          :key="t.event"
          type="button"
          class="touch"
          @click="done(here.strike(t.event), `${t.name} is taken back; log it anew.`)"
        >
          Take back: {{ t.name }}{{ t.at ? `, ${t.at}` : '' }}
        </button>
      </div>
      <div v-else-if="open === 'lost'" class="line">
        <p>Carry it outside, leave it, never add water, never seal it. Its section still wants a batch.</p>
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
  grid-template-columns: repeat(auto-fit, minmax(104px, 1fr));
  gap: 8px;
}
.panel {
  margin-top: 8px;
  padding: 12px 16px;
  background: var(--paper);
  border: 2px solid var(--ink);
  border-radius: 3px;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
}
.text {
  display: grid;
  font-weight: 640;
  flex: 1;
  min-width: 180px;
}
.text input {
  height: 56px;
  padding: 0 12px;
  font: inherit;
  color: var(--ink);
  background: var(--well);
  border: 2px solid var(--ink);
  border-radius: 3px;
}
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
