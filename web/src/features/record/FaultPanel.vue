<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, type RecordOpinion, type RecordSymptom } from '../../api/client'
import FoldPanel from '../../fields/FoldPanel.vue'
import DayFloor from '../../drawing/DayFloor.vue'
import PickField from '../../fields/PickField.vue'
import TextField from '../../fields/TextField.vue'
import { dayTime } from '../../fields/clock'
import { keepPhoto } from '../../record/photos'
import type { DayAtJob } from '../jobday/useDay'
import { useSession } from '../../session/session'
import { useHouseEdits } from '../house/useHouseEdits'
import CauseWeights from './CauseWeights.vue'
import DefectPick from './DefectPick.vue'
import RepairForm from './RepairForm.vue'

/** What went wrong: marked on the plan, and what the record tells of why. */
const props = defineProps<{ here: DayAtJob; id: string }>()
const session = useSession()
const house = useHouseEdits(() => void load())
const opinions = ref<RecordOpinion[]>([])
const symptoms = ref<RecordSymptom[]>([])
const loaded = ref(false)
const marking = ref(false)
const seen = ref('')
const coat = ref('')
const batch = ref('')
const size = ref('')
const text = ref('')
const at = ref<[number, number]>()
const photo = ref('')
const noticed = ref('')
const said = ref('')

async function load(): Promise<void> {
  try {
    const [judged, list] = await Promise.all([
      api.GET('/api/jobs/{job}/faults', { params: { path: { job: props.id } } }),
      api.GET('/api/faults'),
    ])
    opinions.value = judged.data ?? []
    symptoms.value = list.data ?? []
    loaded.value = true
  } catch {
    said.value = 'The server does not answer, so no causes are listed. What you report is saved.'
  }
}
void load()

const coats = computed(() => props.here.issue.value?.coats ?? [])
const plan = computed(() => coats.value.find((c) => c.id === coat.value))
const day = computed(() => props.here.day.value?.coats.find((c) => c.id === coat.value))
const surface = computed(() => props.here.issue.value?.surfaces.find((s) => s.id === plan.value?.surface))
const marks = computed(() =>
  opinions.value
    .filter((o) => o.trouble.coat === coat.value && o.trouble.place)
    .map((o) => ({ at: o.trouble.place as [number, number], name: o.title }))
    .concat(at.value ? [{ at: at.value, name: 'here' }] : []),
)
function open(): void {
  marking.value = true
  coat.value ||= coats.value.at(-1)?.id ?? ''
}
async function then(sent: Promise<boolean>): Promise<boolean> {
  const kept = await sent
  if (kept) {
    await props.here.levelAnew()
    await load()
  }
  return kept
}
async function picture(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file || !session.me || !plan.value) return
  try {
    photo.value = await keepPhoto(session.me.id, props.id, plan.value.surface, file)
    said.value = ''
  } catch (error) {
    said.value = error instanceof Error ? error.message : String(error)
  }
}
async function mark(): Promise<void> {
  if (seen.value === '') {
    said.value = 'Choose the defect.'
    return
  }
  const place = plan.value?.batches.find((b) => String(b.number) === batch.value)?.id ?? `coat/${coat.value}`
  const kept = await then(
    props.here.log('fault', place, {
      seen: seen.value,
      at: at.value,
      photo: photo.value || undefined,
      noticed: noticed.value ? new Date(noticed.value).toISOString() : undefined,
      size: size.value || undefined,
      text: text.value || undefined,
    }),
  )
  if (!kept) return
  marking.value = false
  said.value = ''
  at.value = undefined
  size.value = text.value = photo.value = noticed.value = ''
}
const answer = (o: RecordOpinion, yes: boolean): Promise<boolean> =>
  then(props.here.log('answer', o.trouble.event, { question: o.question?.key, yes }))
const found = (o: RecordOpinion, cause: string): Promise<boolean> =>
  then(props.here.log('found', o.trouble.event, { cause }))
const signed = (weight: number): string =>
  weight > 0 ? `+${weight.toFixed(1)}` : `−${Math.abs(weight).toFixed(1)}`
/** Shares are told in tenths: nobody knows them better. */
const TENTHS = 10
const READ = ['cold-slab', 'near-dew-point', 'damp-air', 'slab-warming']
/** Where on the page the piece stands that a cause rests on, by the fragment of its address. */
function placeOf(o: RecordOpinion, e: RecordOpinion['ranked'][number]['evidence'][number]): string {
  if (e.batch) return `#${o.trouble.coat}-${e.batch}`
  return READ.includes(e.fact ?? '') ? '#conditions' : `#${o.trouble.coat}`
}
const titleOf = (o: RecordOpinion): string => o.ranked.find((r) => r.key === o.trouble.cause)?.title ?? ''
</script>

<template>
  <section class="sheet part" aria-labelledby="faults-title" data-test="faults">
    <div class="row">
      <h2 id="faults-title" class="grow">Defects</h2>
      <v-btn v-if="!marking" data-test="mark-fault" @click="open">Report a defect</v-btn>
    </div>
    <p v-if="said" role="alert">{{ said }}</p>
    <form v-if="marking" class="form" @submit.prevent="mark">
      <DefectPick v-model="seen" :symptoms="symptoms" class="wide" />
      <div class="fields">
        <PickField
          v-model="coat"
          open
          label="Coat"
          :options="Object.fromEntries(coats.map((c) => [c.id, `${c.number}: ${c.name}`]))"
        />
        <PickField
          v-model="batch"
          open
          none="All of it"
          label="Section"
          :options="
            Object.fromEntries((plan?.batches ?? []).map((b) => [String(b.number), `Section ${b.number}`]))
          "
        />
        <TextField v-model="size" label="Size" maxlength="60" />
        <TextField v-model="noticed" type="datetime-local" label="Noticed at, if not now" />
        <TextField v-model="text" label="Details" maxlength="600" />
        <label class="v-btn act picture"
          >{{ photo ? 'Another photograph' : 'Photograph'
          }}<input type="file" accept="image/*" capture="environment" hidden @change="picture"
        /></label>
        <div class="row">
          <v-btn type="submit" variant="flat" color="primary">Save the defect</v-btn>
          <v-btn @click="marking = false">Cancel</v-btn>
        </div>
      </div>
      <DayFloor
        v-if="plan && day && surface"
        :surface="surface"
        :plan="plan"
        :coat="day"
        :chosen="Number(batch)"
        :marks="marks"
        @place="(p, b) => ((at = p), (batch = String(b)))"
      />
    </form>
    <p v-if="loaded && opinions.length === 0 && !marking" class="quiet">
      No defects reported. Report one to see its likely causes from the record.
    </p>
    <article v-for="o in opinions" :key="o.trouble.event" :data-fault="o.trouble.seen">
      <h3>
        {{ o.title }}<template v-if="o.trouble.batch">, section {{ o.trouble.batch }}</template
        ><template v-if="o.trouble.size">, {{ o.trouble.size }}</template>
      </h3>
      <p class="quiet">
        Noticed by {{ o.trouble.by }}, {{ dayTime(o.trouble.at, here.zone.value) }}.
        <template v-if="o.trouble.text">{{ o.trouble.text }}</template>
      </p>
      <a v-if="o.trouble.photo" :href="`/api/photos/${o.trouble.photo}/image`" target="_blank"
        ><img :src="`/api/photos/${o.trouble.photo}/thumb`" :alt="`Photograph: ${o.title}`"
      /></a>
      <p v-if="o.trouble.cause">
        <b>Confirmed cause: {{ titleOf(o) }}.</b>
      </p>
      <p v-else-if="!o.ranked[0]?.asserted" data-test="unknown">
        The record has no evidence for any of these; they are listed by how common they are in practice.
      </p>
      <ol>
        <li v-for="r in o.ranked" :key="r.key" :class="{ asserted: r.asserted }">
          <div class="row">
            <b class="grow">{{ r.title }}</b>
            <span class="small"
              >about {{ Math.round(r.share * TENTHS) * TENTHS }} %,
              {{ r.asserted ? 'supported by the record' : 'suspected only' }}</span
            >
            <v-btn
              v-if="session.mayLead && o.trouble.cause !== r.key"
              size="small"
              :aria-label="`Confirm this cause: ${r.title}`"
              @click="found(o, r.key)"
              >Confirm this cause</v-btn
            >
          </div>
          <ul v-if="r.evidence.length">
            <li v-for="e in r.evidence" :key="e.text" :class="e.weight > 0 ? 'for' : 'against'">
              {{ e.weight > 0 ? 'For' : 'Against' }}:
              <router-link :to="{ hash: placeOf(o, e) }">{{ e.text }}</router-link>
            </li>
          </ul>
          <FoldPanel title="How it was scored">
            <p class="small">
              {{ r.score.toFixed(1) }} = {{ r.priorText
              }}<template v-for="e in r.evidence" :key="e.text"
                >, {{ signed(e.weight) }} ({{ e.text }})</template
              >. Source: {{ o.source }}.
            </p>
            <p class="small"><b>Remedy:</b> {{ r.remedy.text }}</p>
            <CauseWeights
              v-if="session.mayKeep && house.ready.value"
              :symptom="o.trouble.seen"
              :cause="r"
              :own="house.house.value.causes ?? []"
              @change="house.change({ causes: $event })"
            />
          </FoldPanel>
        </li>
      </ol>
      <div v-if="o.question && !o.trouble.cause" class="ask" data-test="question">
        <p class="grow"><b>The most useful question:</b> {{ o.question.text }}</p>
        <v-btn @click="answer(o, true)">Yes</v-btn>
        <v-btn @click="answer(o, false)">No</v-btn>
      </div>
      <RepairForm v-if="here.issue.value" :opinion="o" :issue="here.issue.value" />
    </article>
  </section>
</template>

<style scoped>
.part {
  padding: 14px 18px;
  margin-bottom: 14px;
}
.wide {
  grid-column: 1 / -1;
}
.form {
  display: grid;
  grid-template-columns: 300px 1fr;
  gap: 16px;
  margin: 10px 0;
}
.fields {
  display: grid;
  gap: 8px;
  align-content: start;
}
article {
  border-top: 1px solid var(--line);
  margin-top: 10px;
  padding-top: 8px;
}
ol {
  padding-left: 22px;
  margin: 6px 0;
}
ol > li {
  padding: 4px 0;
  color: var(--quiet);
}
ol > li.asserted {
  color: var(--ink);
}
ul {
  padding-left: 18px;
  margin: 2px 0;
}
.picture {
  justify-self: start;
  padding: 8px 14px;
  border: 1px solid var(--line);
  cursor: pointer;
}
img {
  max-width: 240px;
  max-height: 160px;
}
.for {
  color: var(--ink);
}
.ask {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 8px 12px;
  border: 2px solid var(--cure);
}
p {
  margin: 4px 0;
}
@media (max-width: 900px) {
  .form {
    grid-template-columns: 1fr;
  }
}
</style>
