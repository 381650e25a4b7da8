<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, type JobLine, type ShelfLine } from '../../api/client'
import { dataOf } from '../../api/useRequest'
import TextField from '../../fields/TextField.vue'
import { useSession } from '../../session/session'
import { pages, parts } from '../../shell/pages'
import { stepPath, steps } from '../job/steps'

/** Goes to any job, page or product, or does what a button elsewhere does, by its name. */
interface Command {
  group: string
  title: string
  /** What it is told apart by. */
  told?: string
  run: () => unknown
}

const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ theme: [] }>()
const session = useSession()
const route = useRoute()
const router = useRouter()
const words = ref('')
const field = ref<InstanceType<typeof TextField> | null>(null)
const at = ref(0)
const jobs = ref<JobLine[]>([])
const sheets = ref<ShelfLine[]>([])
const SHOWN = 8

async function find(): Promise<void> {
  const q = words.value.trim()
  const [found, shelf] = await Promise.all([
    dataOf(api.GET('/api/jobs', { params: { query: { q } } })),
    q && session.mayEdit
      ? dataOf(api.GET('/api/shelf', { params: { query: { q, limit: SHOWN } } }))
      : undefined,
  ])
  if (q !== words.value.trim()) return // what was asked for before comes late
  jobs.value = found ?? []
  sheets.value = shelf?.sheets ?? []
  at.value = 0
}
const soon = useDebounceFn(find, 120)
watch(words, () => void soon())
watch(
  open,
  (shown) => {
    if (!shown) return
    words.value = ''
    void find()
    // Where it was closing still, nothing is made anew that would take the focus by itself.
    void nextTick(() => field.value?.focus())
  },
  { immediate: true },
)

const go = (to: string) => (): unknown => router.push(to)
const fixed = computed<Command[]>(() => {
  const id = route.path.startsWith('/jobs/') ? String(route.params.id ?? '') : ''
  const here: Command[] = id
    ? [
        ...steps.map((s) => ({ group: 'This job', title: s.name, run: go(stepPath(id, s.id)) })),
        { group: 'This job', title: 'Mix cards', run: go(`/jobs/${id}/cards`) },
        { group: 'This job', title: 'Job day', run: go(`/jobs/${id}/day`) },
        { group: 'This job', title: 'Record', run: go(`/jobs/${id}/record`) },
      ]
    : []
  const there = pages.filter((p) => !p.edits || session.mayEdit)
  return [
    ...here,
    ...there.map((p) => ({ group: 'Pages', title: p.title, run: go(p.to) })),
    ...(session.mayEdit ? Object.values(parts).flatMap((of) => of.slice(1)) : [])
      .filter((p) => !p.keeps || session.mayKeep)
      .map((p) => ({ group: 'Pages', title: p.title, run: go(p.to) })),
    { group: 'Pages', title: 'Account', run: go('/account') },
    ...(session.mayKeep ? [{ group: 'Pages', title: 'Set up the company', run: go('/start') }] : []),
    { group: 'Actions', title: 'Metric units', run: () => session.setReading({ units: 'metric' }) },
    { group: 'Actions', title: 'US units', run: () => session.setReading({ units: 'us' }) },
    { group: 'Actions', title: '12-hour clock', run: () => session.setReading({ clock: '12' }) },
    { group: 'Actions', title: '24-hour clock', run: () => session.setReading({ clock: '24' }) },
    { group: 'Actions', title: 'Light or dark colours', run: () => emit('theme') },
  ]
})
const commands = computed<Command[]>(() => {
  const q = words.value.trim().toLowerCase()
  const named = fixed.value.filter((c) => `${c.group} ${c.title}`.toLowerCase().includes(q))
  return [
    ...jobs.value.slice(0, SHOWN).map((j) => ({
      group: 'Jobs',
      title: j.name,
      told: [j.client, j.site].filter(Boolean).join(' · '),
      run: go(`/jobs/${j.id}`),
    })),
    ...sheets.value.map(({ sheet }) => ({
      group: 'Products',
      title: sheet.name,
      run: go(`/shelf/p/${sheet.id}`),
    })),
    ...named,
  ]
})

function move(by: number): void {
  const count = commands.value.length
  if (count > 0) at.value = (at.value + by + count) % count
  document.getElementById(`command-${at.value}`)?.scrollIntoView({ block: 'nearest' })
}
function run(c: Command | undefined): void {
  if (!c) return
  open.value = false
  c.run()
}
</script>

<template>
  <v-dialog v-model="open" max-width="560" aria-label="Go to">
    <div class="sheet palette" data-test="palette">
      <TextField
        ref="field"
        v-model="words"
        aria-label="Go to a job, a page or a product"
        placeholder="Job, page, product or action"
        role="combobox"
        aria-expanded="true"
        aria-controls="commands"
        :aria-activedescendant="commands.length ? `command-${at}` : undefined"
        autocomplete="off"
        autofocus
        @keydown.down.prevent="move(1)"
        @keydown.up.prevent="move(-1)"
        @keydown.enter.prevent="run(commands[at])"
      />
      <ul v-if="commands.length" id="commands" role="listbox" aria-label="Found">
        <li
          v-for="(c, n) in commands"
          :id="`command-${n}`"
          :key="`${c.group} ${c.title} ${n}`"
          role="option"
          :aria-selected="n === at"
          @click="run(c)"
          @pointermove="at = n"
        >
          <span
            >{{ c.title }} <span class="quiet small">{{ c.told }}</span></span
          >
          <span class="quiet small">{{ c.group }}</span>
        </li>
      </ul>
      <p v-else class="quiet mt-3">Nothing has this name.</p>
    </div>
  </v-dialog>
</template>

<style scoped>
.palette {
  padding: 14px;
}
ul {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
  max-height: 50vh;
  overflow-y: auto;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 8px 10px;
  border-left: 4px solid transparent;
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--faint);
  border-left-color: var(--cure);
}
</style>
