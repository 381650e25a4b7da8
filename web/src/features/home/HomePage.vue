<script setup lang="ts">
import { isTyping } from '../../fields/typing'
import { useRequest } from '../../api/useRequest'
import {
  useDebounceFn,
  useEventListener,
  useLocalStorage,
  useMediaQuery,
  useSessionStorage,
} from '@vueuse/core'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, importPlanFile, type JobLine, type Summary } from '../../api/client'
import { blankFile } from '../job/blank'
import { useHouse } from '../house/store'
import { useSession } from '../../session/session'
import { useTold } from '../../shell/told'
import { isOwnTool, useShelf } from '../shelf/store'
import TextField from '../../fields/TextField.vue'
import DueLines from './DueLines.vue'
import JobTile from './JobTile.vue'
import NewJobDialog from './NewJobDialog.vue'
import StorageNote from './StorageNote.vue'
import TodayLines from './TodayLines.vue'

/** The company's jobs by where they stand. */
type Group = Summary['standing'] | 'archived'
const groups: { id: Group; title: string }[] = [
  { id: 'site', title: 'On site now' },
  { id: 'measuring', title: 'Being measured' },
  { id: 'planning', title: 'Being planned' },
  { id: 'ready', title: 'Ready' },
  { id: 'done', title: 'Done' },
  { id: 'archived', title: 'Archived' },
]
/** How many of a group are shown before someone asks for more. */
const FIRST = 12
const FIRST_ON_PHONE = 3

const session = useSession()
const house = useHouse()
const shelf = useShelf()
const router = useRouter()
const lines = ref<JobLine[] | null>(null)
const words = ref('')
const { trouble, ask } = useRequest()
const adding = ref(false)
const picker = ref<HTMLInputElement | null>(null)
const search = ref<HTMLInputElement | null>(null)
const picked = ref<string[]>([])
const told = useTold()
const shown = ref<Partial<Record<Group, number>>>({})
const open = useSessionStorage<Group[]>('nephelon.home.open', ['site', 'measuring', 'planning', 'ready'])

/** Tiles below where they stand, or rows of a table. */
const chosen = useLocalStorage<'tiles' | 'table'>('nephelon.home.face', 'tiles')
/** On a phone each row would be a tile again. */
const phone = useMediaQuery('(max-width: 760px)')
const face = computed(() => (phone.value ? 'tiles' : chosen.value))
const JobTable = defineAsyncComponent(() => import('./JobTable.vue'))
const titleOf = (l: JobLine): string => groups.find((g) => g.id === standing(l))?.title ?? ''

let newest = 0
async function list(): Promise<void> {
  newest += 1
  const mine = newest
  const [open, archived] = await Promise.all(
    [false, true].map((archived) =>
      ask(
        api.GET('/api/jobs', { params: { query: { q: words.value, archived } } }),
        'The jobs cannot be read.',
      ),
    ),
  )
  if (mine !== newest) return // what was asked for before comes late
  if (open?.data && archived?.data) lines.value = [...open.data, ...archived.data]
}
const soon = useDebounceFn(list, 150)
const standing = (l: JobLine): Group => (l.archived ? 'archived' : l.summary.standing)
const grouped = computed(() =>
  groups.map((g) => ({ ...g, jobs: (lines.value ?? []).filter((l) => standing(l) === g.id) })),
)
const filled = computed(() => grouped.value.filter((g) => g.jobs.length > 0))
const bare = computed(() =>
  grouped.value.filter((g) => g.jobs.length === 0).map((g) => g.title.toLowerCase()),
)
const none = computed(() => lines.value?.length === 0)
/** Whether a group stands open: what was searched for is always in view. */
function opened(id: Group, count: number): boolean {
  return count > 0 && (words.value !== '' || open.value.includes(id))
}
/** Words as a sentence lists them. */
const listed = (all: string[]): string =>
  [all.slice(0, -1).join(', '), all.at(-1)].filter(Boolean).join(' or ')
function toggle(id: Group): void {
  open.value = open.value.includes(id) ? open.value.filter((g) => g !== id) : [...open.value, id]
}
function most(id: Group): number {
  return shown.value[id] ?? (phone.value ? FIRST_ON_PHONE : FIRST)
}

async function add(name: string, client: string): Promise<void> {
  await Promise.all([house.load(), shelf.load()])
  const tools = shelf.media.filter(isOwnTool)
  const { data } = await ask(
    api.POST('/api/jobs', { body: blankFile(name, client, session.units, house.house, tools) }),
    'The job was not added.',
  )
  if (data) await router.push(`/jobs/${data.id}/measure`)
}

async function importFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  const { data, status } = await ask(
    importPlanFile(file),
    'This file cannot be read.',
    'The server does not answer. Choose the file again when it is back.',
  )
  if (data) await router.push(`/jobs/${data.id}`)
  else if (status > 0) trouble.value = `${file.name}: ${trouble.value}`
}

async function archive(line: JobLine, away: boolean): Promise<void> {
  const { ok } = await ask(
    api.PUT('/api/jobs/{job}/archived', { params: { path: { job: line.id } }, body: { archived: away } }),
    'The job was not moved.',
  )
  if (!ok) return
  if (away) told.say(`${line.name} is archived.`, () => archive(line, false))
  await list()
}

useEventListener(window, 'keydown', (event) => {
  const typing = isTyping(event)
  if (typing || event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === '/') {
    event.preventDefault()
    search.value?.focus()
  } else if (event.key.toLowerCase() === 'n' && session.mayEdit) adding.value = true
})
void list()
</script>

<template>
  <div class="page home" :class="{ wide: face === 'table' }">
    <div class="bar">
      <h1>Jobs</h1>
      <TextField
        ref="search"
        v-model="words"
        type="search"
        class="search"
        placeholder="Search name, client or site"
        aria-label="Search name, client or site"
        @input="soon"
      />
      <v-btn-toggle
        v-if="!phone"
        v-model="chosen"
        mandatory
        density="compact"
        role="group"
        aria-label="Jobs as"
      >
        <v-btn value="tiles" size="small">Tiles</v-btn>
        <v-btn value="table" size="small">Table</v-btn>
      </v-btn-toggle>
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
    <p v-if="picked.length > 0" class="picked" data-test="picked">
      {{ picked.length }} {{ picked.length === 1 ? 'job' : 'jobs' }} chosen
      <v-btn
        size="small"
        :disabled="picked.length < 2"
        :to="{ path: '/purchase', query: { job: picked } }"
        data-test="together"
        >Combined purchase</v-btn
      >
      <v-btn size="small" variant="text" @click="picked = []">None</v-btn>
      <span v-if="picked.length < 2" class="quiet">Choose another job for a combined purchase.</span>
    </p>
    <p v-if="lines === null && !trouble" class="quiet" role="status">Reading the jobs …</p>
    <div v-else-if="none" class="sheet empty">
      <h2>{{ words ? 'No job matches these words' : 'No jobs yet' }}</h2>
      <p class="quiet">
        {{
          words
            ? 'Try fewer words, or another spelling.'
            : 'Outline a floor or enter its area, put coats on it, and the kits, batches and mix cards follow.'
        }}
      </p>
      <div v-if="!words && session.mayEdit" class="row begin">
        <v-btn v-if="session.mayKeep" color="primary" variant="flat" to="/start" data-test="to-start"
          >Set up the company</v-btn
        >
        <v-btn @click="adding = true">New job</v-btn>
      </div>
    </div>
    <template v-else-if="lines">
      <StorageNote v-if="session.mayEdit" />
      <JobTable v-if="face === 'table'" v-model:picked="picked" :lines="lines" :standing="titleOf" />
      <TodayLines v-if="face === 'tiles' && words === ''" :jobs="lines" />
      <DueLines v-if="face === 'tiles' && words === ''" />
      <section
        v-for="g in face === 'tiles' ? filled : []"
        :key="g.id"
        class="group"
        :data-test="`group-${g.id}`"
      >
        <button
          type="button"
          class="plain head"
          :aria-expanded="opened(g.id, g.jobs.length)"
          @click="toggle(g.id)"
        >
          <span class="count">{{ g.jobs.length }}</span>
          <span class="title">{{ g.title }}</span>
          <span class="quiet">{{ opened(g.id, g.jobs.length) ? 'hide' : 'show' }}</span>
        </button>
        <ul v-if="opened(g.id, g.jobs.length)" class="jobs">
          <JobTile
            v-for="line in g.jobs.slice(0, most(g.id))"
            :key="line.id"
            v-model:picked="picked"
            :line="line"
            @archive="archive"
          />
        </ul>
        <v-btn
          v-if="opened(g.id, g.jobs.length) && g.jobs.length > most(g.id)"
          size="small"
          variant="text"
          @click="shown[g.id] = most(g.id) + 48"
          >{{ g.jobs.length - most(g.id) }} more</v-btn
        >
      </section>
      <p v-if="face === 'tiles' && bare.length > 0" class="quiet small" data-test="bare">
        No job is {{ listed(bare) }}.
      </p>
    </template>
    <NewJobDialog v-model="adding" :trouble="trouble" @add="add" />
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin-bottom: 18px;
}
.bar h1 {
  margin-right: auto;
}
.search {
  flex: 1 1 220px;
  max-width: 360px;
}
.picked {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  position: sticky;
  top: 0;
  z-index: 5;
  padding: 8px 14px;
  background: var(--ink);
  color: var(--paper);
}
.picked .quiet {
  color: inherit;
}
.group {
  margin-bottom: 14px;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 12px;
  width: 100%;
  padding: 6px 0;
  border-bottom: 2px solid var(--line);
}
.head .title {
  font-size: 1.12rem;
  font-weight: 700;
}
.count {
  min-width: 2.2em;
  font-weight: 700;
  text-align: right;
}
.jobs {
  list-style: none;
  padding: 0;
  margin: 10px 0 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(340px, 100%), 1fr));
  gap: 10px;
}
.empty {
  padding: 40px;
  text-align: center;
}
.begin {
  justify-content: center;
  margin-top: 16px;
}
.trouble {
  color: var(--stop);
  font-weight: 600;
  margin-bottom: 10px;
}
</style>
