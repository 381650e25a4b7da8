<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, type EntryLine } from '../../api/client'
import PickField from '../../fields/PickField.vue'
import TextField from '../../fields/TextField.vue'
import { dayTime } from '../../fields/clock'
import { kindWords } from '../jobday/words'
import PageParts from '../../shell/PageParts.vue'
import { useSession } from '../../session/session'
import OwnFloors from './OwnFloors.vue'
import { entryText } from './words'

/** What was logged on all jobs, to search; and what own floors show against what was planned. */
const session = useSession()
const words = ref('')
const kind = ref('')
const entries = ref<EntryLine[]>()
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
const floors = ref(0)
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
const MILLIS = 1000
/** When it was, by the clock of the server. */
const happened = (e: EntryLine): string =>
  e.event.body.noticed ?? new Date(new Date(e.event.at).getTime() + e.event.behind * MILLIS).toISOString()
</script>

<template>
  <div class="page">
    <h1 class="mb-3">Records</h1>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <PageParts
      v-if="floors"
      v-model="part"
      class="mb-3"
      :parts="{ entries: 'Entries', learnt: 'Own floors' }"
      label="Records"
    />
    <OwnFloors v-if="session.mayEdit" v-show="part === 'learnt'" @found="floors = $event" />
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
