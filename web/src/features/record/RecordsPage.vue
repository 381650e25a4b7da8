<script setup lang="ts">
import { dataOf, useRequest } from '../../api/useRequest'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, type EntryLine, type RecordLearnt } from '../../api/client'
import PickField from '../../fields/PickField.vue'
import TextField from '../../fields/TextField.vue'
import { dayTime } from '../../fields/clock'
import { useHouseEdits } from '../house/useHouseEdits'
import { kindWords } from '../jobday/words'
import { useSession } from '../../session/session'
import { entryText } from './words'

/** What was logged on all jobs, to search; and what own floors show against what was planned. */
const session = useSession()
const house = useHouseEdits()
const words = ref('')
const kind = ref('')
const entries = ref<EntryLine[]>()
const learnt = ref<RecordLearnt[]>([])
const { trouble, ask } = useRequest()
const TYPED_MS = 250
const asked = refDebounced(words, TYPED_MS)

async function search(): Promise<void> {
  const { data } = await ask(
    api.GET('/api/record-entries', {
      params: { query: { words: asked.value, kind: kind.value } },
    }),
    'The records cannot be searched.',
    'The server does not answer. Search again when it is back.',
  )
  entries.value = data
}
watch([asked, kind], () => void search(), { immediate: true })
async function learn(): Promise<void> {
  learnt.value = (await dataOf(api.GET('/api/learnt'))) ?? []
}
if (session.mayEdit) void learn()
function takeOver(l: RecordLearnt): void {
  const crew = house.house.value.crew
  if (!crew || !l.pace) return
  house.change({ crew: { ...crew, pace: { value: l.pace, source: 'own-test' } } })
}
const part = ref('entries')
const headers = [
  { title: 'When', key: 'when', width: 170 },
  { title: 'Job', key: 'job', width: 210 },
  { title: 'Entry type', key: 'kind', width: 180 },
  { title: 'Details', key: 'details' },
  { title: 'By', key: 'by', width: 150 },
]
const rows = computed(() =>
  (entries.value ?? []).map((e) => ({
    id: e.event.id,
    when: happened(e),
    zone: e.zone,
    to: e.job,
    job: e.name,
    kind: kindWords[e.event.kind],
    details: entryText(e.event, session.format),
    by: e.event.name,
  })),
)
const PERCENT = 100
const MILLIS = 1000
/** When it was, by the clock of the server. */
const happened = (e: EntryLine): string =>
  e.event.body.noticed ?? new Date(new Date(e.event.at).getTime() + e.event.behind * MILLIS).toISOString()
</script>

<template>
  <div class="page">
    <h1 class="mb-3">Records</h1>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <v-tabs v-if="learnt.length" v-model="part" class="choices mb-3" hide-slider aria-label="Records">
      <v-tab value="entries" data-part="entries"><span>Entries</span></v-tab>
      <v-tab value="learnt" data-part="learnt"><span>Actual v planned pace</span></v-tab>
    </v-tabs>
    <section v-show="part === 'learnt'" class="sheet part" aria-labelledby="learnt-title" data-test="learnt">
      <h2 id="learnt-title">Actual v planned pace</h2>
      <div class="scroll" tabindex="0" role="region" aria-label="Actual v planned pace">
        <table class="figures">
          <thead>
            <tr>
              <th>Product</th>
              <th>Crew</th>
              <th>From</th>
              <th>Actual / planned time</th>
              <th>Pace per person</th>
              <th>Lost</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in learnt" :key="l.product + l.method + l.crew">
              <td>{{ l.product }}{{ l.method ? `, ${l.method.replaceAll('-', ' ')}` : '' }}</td>
              <td>{{ l.crew }}</td>
              <td>
                {{ l.cases === 1 ? '1 section' : `${l.cases} sections` }} of
                {{ l.floors === 1 ? '1 coat' : `${l.floors} coats` }}
              </td>
              <td>
                {{ l.times.toFixed(2) }} × as planned<template v-if="l.spread"
                  >, ± {{ (l.spread * PERCENT).toFixed(0) }} %</template
                >
              </td>
              <td>{{ l.pace ? session.format('pace', l.pace) : '' }}</td>
              <td>
                {{
                  l.hot
                    ? `${l.hot} hot, after ${((l.lived ?? 0) * PERCENT).toFixed(0)} % of their life; `
                    : ''
                }}{{ l.lost ? `${(l.lost * PERCENT).toFixed(1)} %` : 'nothing' }}
              </td>
              <td>
                <v-btn
                  v-if="session.mayKeep && l.pace && house.house.value.crew"
                  size="small"
                  :aria-label="`Plan new jobs with the pace of ${l.crew} with ${l.product}`"
                  @click="takeOver(l)"
                  >Plan new jobs with it</v-btn
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="small quiet">
        Not applied yet: a pace that you apply is saved in the company standards as an own test and can be
        changed there.
        <b v-if="house.state.value === 'saved'" role="status">Saved in the company standards.</b>
      </p>
    </section>
    <div v-show="part === 'entries'">
      <div class="row mb-2">
        <TextField v-model="words" label="Search job, person, lot or words" class="grow" type="search" />
        <PickField v-model="kind" class="kind" open none="Everything" label="Kind" :options="kindWords" />
      </div>
      <p v-if="entries?.length === 0" class="quiet">
        {{
          words || kind
            ? 'No entry matches.'
            : 'Nothing was logged yet. What crews log on a job day appears here.'
        }}
      </p>
      <v-data-table-virtual
        v-else-if="entries"
        class="rows"
        data-test="entries"
        :headers="headers"
        :items="rows"
        item-value="id"
        density="compact"
        fixed-header
        height="calc(100vh - 236px)"
        :mobile-breakpoint="600"
      >
        <template #[`item.when`]="{ item }">{{ dayTime(item.when, item.zone) }}</template>
        <template #[`item.job`]="{ item }">
          <router-link :to="`/jobs/${item.to}/record`">{{ item.job }}</router-link>
        </template>
      </v-data-table-virtual>
    </div>
  </div>
</template>

<style scoped>
.kind {
  flex: 0 1 240px;
}
.part {
  padding: 14px 18px;
  margin-bottom: 14px;
}
</style>
