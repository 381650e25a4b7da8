<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, importPlanFile, refusal, type JobLine } from '../../api/client'
import { blankFile } from '../job/blank'
import { useHouse } from '../house/store'
import { useSession } from '../people/session'
import { useShelf } from '../shelf/store'

const session = useSession()
const house = useHouse()
const shelf = useShelf()
const router = useRouter()
const lines = ref<JobLine[] | null>(null)
const words = ref('')
const archived = ref(false)
const trouble = ref('')
const adding = ref(false)
const name = ref('')
const client = ref('')
const picker = ref<HTMLInputElement | null>(null)
const picked = ref<string[]>([])
const undone = ref<JobLine | null>(null)

async function list(): Promise<void> {
  try {
    const { data, error } = await api.GET('/api/jobs', {
      params: { query: { q: words.value, archived: archived.value } },
    })
    if (data) lines.value = data
    else trouble.value = refusal(error, 'The jobs cannot be read.')
  } catch {
    trouble.value = 'The server does not answer. Try again when the connection is back.'
  }
}
const search = useDebounceFn(list, 150)

async function add(): Promise<void> {
  if (!name.value.trim()) {
    trouble.value = 'Give the job a name.'
    return
  }
  await Promise.all([house.load(), shelf.load()])
  const tools = shelf.media.filter((m) => m.kind === 'tool')
  const { data, error } = await api.POST('/api/jobs', {
    body: blankFile(name.value.trim(), client.value.trim(), session.units, house.house, tools),
  })
  if (data) await router.push(`/jobs/${data.id}`)
  else trouble.value = refusal(error, 'The job was not added.')
}

async function importFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const picked = input.files?.[0]
  input.value = ''
  if (!picked) return
  trouble.value = ''
  try {
    const { data, error } = await importPlanFile(picked)
    if (data) await router.push(`/jobs/${data.id}`)
    else trouble.value = `${picked.name}: ${refusal(error, 'This file cannot be read.')}`
  } catch {
    trouble.value = 'The server does not answer. Choose the file again when it is back.'
  }
}

async function archive(line: JobLine, away: boolean): Promise<void> {
  await api.PUT('/api/jobs/{job}/archived', { params: { path: { job: line.id } }, body: { archived: away } })
  undone.value = away ? line : null
  await list()
}

const when = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' })
void list()
</script>

<template>
  <div class="page">
    <div class="row mb-4">
      <h1 class="grow">Jobs</h1>
      <v-text-field
        v-model="words"
        label="Search name, client or site"
        type="search"
        class="search"
        clearable
        @update:model-value="search"
      />
      <template v-if="session.mayEdit">
        <v-btn @click="picker?.click()">Import a plan file</v-btn>
        <input
          ref="picker"
          class="d-none"
          type="file"
          accept=".json,application/json"
          aria-label="Plan file to import"
          @change="importFile"
        />
        <v-btn color="primary" variant="flat" data-test="new-job" @click="adding = true">New job</v-btn>
      </template>
    </div>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <p v-if="undone" class="mb-3" role="status">
      {{ undone.name }} is put away.
      <v-btn size="small" @click="archive(undone, false)">Bring it back</v-btn>
    </p>
    <p v-if="lines === null && !trouble" class="quiet">Reading the jobs …</p>
    <div v-else-if="lines?.length === 0" class="sheet empty">
      <h2>{{ words ? 'No job matches these words' : archived ? 'Nothing is put away' : 'No jobs yet' }}</h2>
      <p class="quiet">
        {{
          words
            ? 'Try fewer words, or look among those put away.'
            : 'Start with New job: outline a floor, put coats on it, and the kits, batches and mix cards follow.'
        }}
      </p>
    </div>
    <ul v-else-if="lines" class="jobs">
      <li v-for="line in lines" :key="line.id" class="sheet">
        <input
          v-model="picked"
          type="checkbox"
          class="tick"
          :value="line.id"
          :aria-label="`Buy for ${line.name} together with others`"
        />
        <router-link :to="`/jobs/${line.id}`" class="job">
          <span class="title">{{ line.name }}</span>
          <span class="quiet">{{
            [line.client, line.site].filter(Boolean).join(' · ') || 'No client named'
          }}</span>
          <span class="quiet small">
            {{ line.surfaces }} {{ line.surfaces === 1 ? 'surface' : 'surfaces' }} · {{ line.changedBy }},
            {{ when.format(new Date(line.changedAt)) }}
          </span>
        </router-link>
        <v-btn v-if="session.mayEdit" size="small" variant="text" @click="archive(line, !archived)">
          {{ archived ? 'Bring back' : 'Put away' }}
        </v-btn>
      </li>
    </ul>
    <p v-if="picked.length > 0" class="row mb-3">
      <v-btn
        :disabled="picked.length < 2"
        :to="{ path: '/purchase', query: { job: picked } }"
        data-test="together"
        >Buy for {{ picked.length }} jobs together</v-btn
      >
      <span v-if="picked.length < 2" class="quiet small">Tick another job to buy for both at once.</span>
    </p>
    <label class="small"
      ><input v-model="archived" type="checkbox" @change="list" /> Show jobs put away</label
    >

    <v-dialog v-model="adding" aria-label="New job">
      <form class="sheet dialog" @submit.prevent="add">
        <h2>New job</h2>
        <v-text-field v-model="name" label="Name of the job" autofocus maxlength="160" />
        <v-text-field v-model="client" label="Client (may stay empty)" maxlength="160" />
        <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat">Begin measuring</v-btn>
          <v-btn variant="text" @click="adding = false">Cancel</v-btn>
        </div>
      </form>
    </v-dialog>
  </div>
</template>

<style scoped>
.search {
  min-width: 260px;
  max-width: 340px;
}
.jobs {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 8px;
  margin-bottom: 20px;
}
.tick {
  margin-left: 14px;
}
.jobs li {
  display: flex;
  align-items: center;
  padding-right: 12px;
  border-left: 6px solid var(--cure);
}
.job {
  flex: 1;
  display: grid;
  grid-template-columns: 1.4fr 1.6fr 1.4fr;
  gap: 16px;
  align-items: baseline;
  padding: 16px 18px;
  color: inherit;
  text-decoration: none;
}
.job:hover .title {
  text-decoration: underline;
}
.title {
  font-weight: 680;
  font-size: 1.08rem;
}
.empty {
  padding: 40px;
  text-align: center;
}
.dialog {
  padding: 24px;
  display: grid;
  gap: 14px;
}
.trouble {
  color: var(--stop);
  font-weight: 600;
  margin-bottom: 10px;
}
@media (max-width: 700px) {
  .job {
    grid-template-columns: 1fr;
    gap: 2px;
  }
}
</style>
