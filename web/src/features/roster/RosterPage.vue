<script setup lang="ts">
import { keyOf } from '../../drawing/roster'
import { useRequest } from '../../api/useRequest'
import { useMediaQuery } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, type Bookable, type Opening } from '../../api/client'
import PickField from '../../fields/PickField.vue'
import RosterChart from '../../drawing/RosterChart.vue'
import { useSend } from '../bench/useSend'
import PageParts from '../../shell/PageParts.vue'
import { useSession } from '../../session/session'
import BookingPanel from './BookingPanel.vue'
import DayList from './DayList.vue'
import PlanAnswer from './PlanAnswer.vue'
import { dayTime } from '../../fields/clock'
import { useHere } from './useHere'
import { useRoster } from './useRoster'

const session = useSession()
const roster = useRoster()
void roster.load()
const phone = useMediaQuery('(max-width: 760px)')
const part = ref(phone.value ? 'list' : 'chart')
const parts = computed(() => ({
  ...(phone.value ? {} : { chart: 'Crews by day' }),
  list: 'Day by day',
}))
/** Shows a task of the list where it stands on the chart. */
function find(key: string): void {
  chosen.value = key
  if (!phone.value) part.value = 'chart'
}
const rows = { crew: 'By crew', job: 'By job', place: 'By place', machine: 'By machine' } as const
const by = ref<keyof typeof rows>('crew')
const zooms = { '28': 'Hours', '12': 'Days', '5': 'Weeks', '2': 'Two months' }
const hour = ref('12')
const chosen = ref('')
const crew = ref('all')
const legal = ref<Opening[]>([])
const refused = ref('')
const task = computed(() => roster.tasks.value.get(chosen.value))
// What was refused is said of the task that was chosen then.
watch(chosen, () => (refused.value = ''))
const movable = computed(() => session.mayKeep)
const EVERYBODY = 'all'
/** The list is for everybody, a crew, or a person, who is told from a crew by this. */
const OF = 'person '
const people = computed(() => (roster.view.value?.crews ?? []).flatMap((c) => c.members ?? []))
const crews = computed<Record<string, string>>(() => ({
  [EVERYBODY]: 'Everybody',
  ...Object.fromEntries((roster.view.value?.crews ?? []).map((c) => [c.id, c.name])),
  ...Object.fromEntries(people.value.map((name) => [OF + name, name])),
}))
const named = computed(() => (crew.value.startsWith(OF) ? crew.value.slice(OF.length) : undefined))
/** The crew whose days are listed. */
const own = computed(() =>
  crew.value === EVERYBODY
    ? undefined
    : named.value
      ? roster.view.value?.crews.find((c) => c.members?.includes(named.value ?? ''))?.id
      : crew.value,
)
const listed = computed(() =>
  crew.value === EVERYBODY ? 'The next three weeks' : (crews.value[crew.value] ?? 'The next three weeks'),
)
watch(people, (all) => {
  const me = session.me?.name ?? ''
  if (crew.value === EVERYBODY && all.includes(me)) crew.value = OF + me
})
const unbooked = computed(() => {
  const { bookings = [], lain = [] } = roster.view.value ?? {}
  const booked = new Set([...bookings, ...lain].map(keyOf))
  return (roster.view.value?.tasks ?? []).filter((t) => !booked.has(keyOf(t))).length
})

async function grasp(of: Bookable): Promise<void> {
  refused.value = ''
  legal.value = (await roster.places(of))?.places ?? []
}
const here = useHere()
function over(of: Bookable, _: string, from: Date): void {
  here.over(
    of,
    roster.view.value?.bookings.find((b) => keyOf(b) === keyOf(of)),
    from,
  )
}
/** What becomes of the pour that is held over the roster. */
const preview = computed(() => {
  const h = here.hour.value
  if (!h) return here.untimed.value ? 'The plan of this job cannot time the coat there.' : ''
  const span = (s: number): string => session.format('span', Math.abs(s))
  return [
    `First kit ${dayTime(h.at, roster.view.value?.zone)}`,
    h.life ? `a pail can be used for ${span(h.life)}` : '',
    h.tight.slack < 0 ? `${span(h.tight.slack)} too late` : `${span(h.tight.slack)} to spare`,
    h.odds === undefined ? '' : `on time in ${Math.round(h.odds * 100)}% of the runs`,
    h.closes ? `its window closes ${dayTime(h.closes, roster.view.value?.zone)}` : '',
    ...h.against.map((a) => a.replace(/\.$/, '')),
  ]
    .filter(Boolean)
    .join(' · ')
})
async function drop(of: Bookable, to: string, from: Date): Promise<void> {
  here.clear()
  refused.value = ''
  chosen.value = keyOf(of)
  const answer = await roster.places(of, { crew: to, from })
  legal.value = []
  if (answer?.why) {
    refused.value = `“${of.name}” cannot begin there. ${answer.why}`
    legal.value = answer.places
    return
  }
  await roster.move(of, to, from)
}
const into = useSend()
/** The job that is changed by what is tried, if it is none of the crews. */
const changes = computed(() => roster.tried.value?.sooner ?? roster.tried.value?.job)
/** Makes the change of a job that was only tried, and plans with it. */
async function changeJob(): Promise<void> {
  const way = roster.tried.value
  if (!way || !changes.value) return
  await into.open(changes.value)
  if (!into.job.value) return
  await into.send((file) => {
    if (way.sooner) {
      file.job.earliest = undefined
      file.job.start = undefined
    }
    const coat = file.job.surfaces.flatMap((s) => s.coats).find((c) => c.id === way.coat)
    if (coat) coat.hardener = way.hardener
  })
  if (!into.trouble.value) await roster.planAll()
}
const { trouble: unchanged, ask } = useRequest()
/** Makes the change that was only tried, and plans with it. */
async function makeItSo(): Promise<void> {
  const way = roster.tried.value
  const { data } = await ask(api.GET('/api/house'), 'The company standards cannot be read.')
  if (!way || !data) return
  const crews = data.house.crews ?? []
  const like = crews.find((c) => c.id === way.twin)
  const body = {
    ...data.house,
    crews: [
      ...crews.map((c) =>
        c.id === way.saturdays
          ? { ...c, overtime: { days: ['sat' as const], from: '07:00', until: '13:00' } }
          : c,
      ),
      ...(like
        ? [{ ...like, id: `crew-${Date.now().toString(36)}`, name: `${like.name}, another one` }]
        : []),
    ],
  }
  const { ok } = await ask(
    api.PUT('/api/house', { params: { query: { base: data.revision } }, body }),
    'The change was not made.',
  )
  if (!ok) return
  await roster.planAll()
}
const files = { ics: 'calendar', csv: 'table', xlsx: 'workbook' }
const file = (as: string): string =>
  `/api/roster-file?as=${as}` +
  (named.value
    ? `&person=${encodeURIComponent(named.value)}`
    : own.value
      ? `&crew=${encodeURIComponent(own.value)}`
      : '')
function print(): void {
  window.print()
}
</script>

<template>
  <div class="page wide">
    <div class="row head">
      <h1 class="grow">Roster</h1>
      <div class="row no-print">
        <span v-if="roster.busy.value" class="small" role="status"
          >{{ roster.busy.value }}
          <button type="button" class="plain" @click="roster.stop">Stop</button></span
        >
        <v-btn
          v-if="roster.proposal.value"
          size="small"
          :disabled="!roster.canUndo.value"
          @click="roster.undo"
          >Undo</v-btn
        >
        <v-btn v-if="roster.proposal.value" size="small" data-test="discard" @click="roster.discard"
          >Discard</v-btn
        >
        <v-btn v-if="movable" size="small" variant="text" to="/people/crews" data-test="to-crews"
          >Crews and machines</v-btn
        >
        <v-btn size="small" @click="print">Print the sheet</v-btn>
        <v-btn
          v-if="movable"
          size="small"
          data-test="plan-roster"
          :disabled="!roster.view.value"
          @click="roster.planAll"
          >{{ unbooked > 0 ? `Plan ${unbooked} ${unbooked === 1 ? 'task' : 'tasks'}` : 'Re-plan' }}</v-btn
        >
        <v-btn
          v-if="(roster.tried.value?.saturdays || roster.tried.value?.twin) && movable"
          size="small"
          color="primary"
          variant="flat"
          data-test="make-it-so"
          @click="makeItSo"
          >Apply to crews</v-btn
        >
        <v-btn
          v-if="changes && movable"
          size="small"
          color="primary"
          variant="flat"
          data-test="change-job"
          @click="changeJob"
          >Apply to job</v-btn
        >
        <v-btn
          v-if="roster.proposal.value && movable && !roster.proposal.value.conflict && !roster.tried.value"
          size="small"
          color="primary"
          variant="flat"
          data-test="keep-roster"
          @click="roster.keep"
          >Book this plan</v-btn
        >
      </div>
    </div>
    <p v-if="into.trouble.value" role="alert" class="late">{{ into.trouble.value }}</p>
    <p v-if="unchanged" role="alert" class="late">{{ unchanged }}</p>
    <p v-if="roster.trouble.value" role="alert" class="late" data-test="roster-trouble">
      {{ roster.trouble.value }}
      <button type="button" class="plain" @click="roster.load">Reload</button>
    </p>
    <p v-if="refused" role="alert" class="late" data-test="refused">{{ refused }}</p>
    <template v-if="roster.view.value">
      <PlanAnswer :roster="roster" :movable="movable" @choose="chosen = $event" />
      <p v-if="roster.view.value.tasks.length === 0" class="quiet">
        Nothing can be booked yet. Measure a job and plan its coats; its tasks then appear here.
      </p>
      <PageParts v-model="part" class="mt-2" :parts="parts" label="Roster" />
      <v-tabs-window v-model="part">
        <v-tabs-window-item v-if="!phone" value="chart" class="no-print">
          <div class="row tools">
            <div role="group" aria-label="Rows" class="row">
              <v-btn
                v-for="(name, r) in rows"
                :key="r"
                size="small"
                :aria-pressed="by === r"
                :variant="by === r ? 'flat' : 'text'"
                :data-test="`by-${r}`"
                @click="by = r"
                >{{ name }}</v-btn
              >
            </div>
            <PickField v-model="hour" label="Zoom" open :options="zooms" class="pick" />
            <span class="small quiet">◆ first use. Line below a coat: its recoat window.</span>
          </div>
          <p v-if="preview" class="preview" role="status" data-test="preview">{{ preview }}</p>
          <div class="board" :class="{ open: task }">
            <RosterChart
              :view="roster.view.value"
              :by="by"
              :hour="Number(hour)"
              :chosen="chosen"
              :movable="movable"
              :legal="legal"
              @choose="chosen = $event"
              @grasp="grasp"
              @over="over"
              @drop="drop"
            />
            <BookingPanel
              v-if="task"
              :roster="roster"
              :task="task"
              :movable="movable"
              @move="(to, from) => task && drop(task, to, from)"
            />
          </div>
        </v-tabs-window-item>
        <v-tabs-window-item value="list" class="printed" eager>
          <div class="row tools">
            <h2 class="grow">{{ listed }}</h2>
            <PickField v-model="crew" label="List for" open :options="crews" class="pick no-print" />
            <span class="small no-print" data-test="roster-files"
              >As a file:
              <a v-for="(words, as) in files" :key="as" class="file" :href="file(as)" download>{{
                words
              }}</a></span
            >
          </div>
          <DayList :view="roster.view.value" :crew="own" :chosen="chosen" @choose="find" />
        </v-tabs-window-item>
      </v-tabs-window>
    </template>
    <p v-else-if="!roster.trouble.value" class="quiet">Reading …</p>
  </div>
</template>

<style scoped>
.page {
  max-width: none;
}
.tools {
  gap: 18px;
  margin: 10px 0;
  align-items: end;
}
.file {
  margin-left: 8px;
}
.pick {
  width: 150px;
}
@media print {
  .printed {
    display: block !important;
  }
}
.preview {
  border-left: 5px solid var(--cure);
  padding: 4px 12px;
  font-weight: 640;
}
.board {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
  align-items: start;
}
.board.open {
  grid-template-columns: minmax(0, 1fr) 300px;
}
.late {
  color: var(--stop);
  font-weight: 700;
}
@media (max-width: 760px) {
  .board.open {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
