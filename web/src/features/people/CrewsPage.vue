<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { readBusy, type House, type Leave, type Machinery, type StandingCrew } from '../../api/client'
import TickField from '../../fields/TickField.vue'
import PickField from '../../fields/PickField.vue'
import NumberField from '../../fields/NumberField.vue'
import TextField from '../../fields/TextField.vue'
import { useHouseEdits } from '../house/useHouseEdits'
import PartsNav from '../../shell/PartsNav.vue'
import HoursFields from '../job/HoursFields.vue'

/** Who is on the roster, what they can do and when, and of which machines there are few. */
const { trouble: unread, ask } = useRequest()
const { house, trouble, past, ready, change: keep, undo } = useHouseEdits()
const words: Record<StandingCrew['skills'][number], string> = {
  grinding: 'grinds',
  acids: 'works with acid',
  mixing: 'mixes',
  spreading: 'lays',
}
const ALL = Object.keys(words) as StandingCrew['skills']
const machines: Record<Machinery['machine'], string> = {
  grinder: 'Grinders',
  'shot-blaster': 'Shot blasters',
  'screening-machine': 'Screening machines',
  sander: 'Sanders',
  vacuum: 'Vacuums',
  'wet-vacuum': 'Wet vacuums',
  'mixer-drill': 'Mixer drills',
}
/** The steps in which work can be booked, by minutes. */
const stepWords = { '5': '5 minutes', '10': '10 minutes', '15': 'a quarter of an hour', '30': 'half an hour' }
const USUAL_STEP = 10
const crews = computed(() => house.value.crews ?? [])
function add(): void {
  const number = crews.value.length + 1
  const id = `crew-${Date.now().toString(36)}`
  keep({ crews: [...crews.value, { id, name: `Crew ${number}`, people: 2, skills: ALL }] })
}
function change(at: number, by: Partial<StandingCrew>): void {
  keep({ crews: crews.value.map((c, i) => (i === at ? { ...c, ...by } : c)) })
}
function remove(at: number): void {
  keep({ crews: crews.value.filter((_, i) => i !== at) })
}
function skill(at: number, s: StandingCrew['skills'][number]): void {
  const now = crews.value[at]?.skills ?? []
  change(at, { skills: ALL.filter((k) => (k === s ? !now.includes(s) : now.includes(k))) })
}
const days = ref<Record<string, string>>({})
function off(at: number): void {
  const crew = crews.value[at]
  const day = crew && days.value[crew.id]
  if (!crew || !day) return
  const leave: Leave = { from: day, until: day }
  days.value[crew.id] = ''
  change(at, { off: [...(crew.off ?? []), leave] })
}
/** Reads a calendar's busy times in place of those that were read before. */
async function read(at: number, event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  const { data } = await ask(readBusy(file), 'The calendar cannot be read.')
  input.value = ''
  if (data) change(at, { busy: data.length > 0 ? data : undefined })
}
const dated = (day: string): string =>
  new Intl.DateTimeFormat(undefined, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    timeZone: 'UTC',
  }).format(new Date(`${day}T00:00:00Z`))
function saturdays(at: number, on: boolean): void {
  change(at, { overtime: on ? { days: ['sat'], from: '07:00', until: '13:00' } : undefined })
}
function count(machine: Machinery['machine'], n: number | undefined): void {
  const all = house.value.machines ?? []
  const was = all.find((m) => m.machine === machine)
  const rest = all.filter((m) => m.machine !== machine)
  keep({ machines: n ? [...rest, { ...was, machine, count: n }] : rest })
}
const broken = ref<{ machine?: Machinery['machine']; from: string; until: string }>({ from: '', until: '' })
const few = computed(() => house.value.machines ?? [])
function out(machine: Machinery['machine'], off: Leave[]): void {
  keep({ machines: few.value.map((m) => (m.machine === machine ? { ...m, off } : m)) })
}
function breaks(): void {
  const { machine, from, until } = broken.value
  const own = few.value.find((m) => m.machine === machine)
  if (!own || !from) return
  out(own.machine, [...(own.off ?? []), { from, until: until > from ? until : from }])
  broken.value = { from: '', until: '' }
}
/** Names between commas; none where there are none. */
function named(text: string): string[] | undefined {
  const all = text
    .split(',')
    .map((name) => name.trim())
    .filter(Boolean)
  return all.length > 0 ? all : undefined
}
const word = (event: Event): string => (event.target as HTMLInputElement).value
</script>

<template>
  <div class="page" data-test="crews">
    <div class="row mb-2">
      <h1 class="grow">Crews and machines</h1>
      <v-btn size="small" :disabled="past.length === 0" data-test="undo-crews" @click="undo">Undo</v-btn>
      <v-btn size="small" :disabled="!ready" data-test="add-crew" @click="add">Add a crew</v-btn>
    </div>
    <PartsNav of="people" />
    <p v-if="trouble || unread" role="alert">{{ trouble || unread }}</p>
    <p v-else-if="!ready" class="quiet">Reading the crews …</p>
    <p v-else-if="crews.length === 0" class="quiet">
      Until you add a crew, one crew is assumed that does all work in company hours.
    </p>
    <PickField
      v-if="ready"
      class="steps mb-3"
      label="Book work in steps of"
      open
      :model-value="String(house.bookingStep ?? USUAL_STEP)"
      :options="stepWords"
      data-test="booked-steps"
      @update:model-value="keep({ bookingStep: Number($event) as House['bookingStep'] })"
    />
    <div v-if="ready" class="crews">
      <fieldset v-for="(c, i) in crews" :key="c.id" class="sheet crew">
        <legend>{{ c.name }}</legend>
        <div class="pair">
          <TextField
            label="Name"
            :model-value="c.name"
            @change="change(i, { name: word($event) || c.name })"
          />
          <NumberField
            label="People"
            :model-value="c.people"
            whole
            :least="1"
            :most="40"
            @update:model-value="change(i, { people: $event || 1 })"
          />
        </div>
        <TextField
          class="mt-2"
          label="Members, comma-separated, the mixer first"
          :model-value="(c.members ?? []).join(', ')"
          :data-test="`members-${i}`"
          @change="change(i, { members: named(word($event)) })"
        />
        <div class="row small">
          <TickField
            v-for="s in ALL"
            :key="s"
            :label="words[s]"
            :model-value="c.skills.includes(s)"
            @update:model-value="skill(i, s)"
          />
        </div>
        <HoursFields :hours="c.hours" @change="change(i, { hours: $event })" />
        <TickField
          label="Saturdays 7:00 to 13:00 as overtime where that reduces delay"
          :model-value="c.overtime !== undefined"
          @update:model-value="saturdays(i, $event)"
        />
        <ul v-if="(c.off ?? []).length > 0" class="off">
          <li v-for="(l, n) in c.off" :key="n" class="small">
            Off {{ dated(l.from) }}{{ l.until > l.from ? ` to ${dated(l.until)}` : ''
            }}{{ l.why ? `, ${l.why}` : '' }}
            <button
              type="button"
              class="plain"
              :aria-label="`Remove ${c.name}, off ${dated(l.from)}`"
              @click="change(i, { off: c.off?.filter((_, k) => k !== n) })"
            >
              Remove
            </button>
          </li>
        </ul>
        <p v-if="(c.busy ?? []).length > 0" class="small">
          {{ c.busy?.length }} busy {{ c.busy?.length === 1 ? 'period' : 'periods' }} imported
          <button
            type="button"
            class="plain"
            :aria-label="`Remove the imported times of ${c.name}`"
            @click="change(i, { busy: undefined })"
          >
            Remove imported times
          </button>
        </p>
        <label class="small busy"
          >Busy times of {{ c.name }} from a calendar (.ics)
          <input type="file" accept=".ics,text/calendar" :data-test="`busy-${i}`" @change="read(i, $event)" />
        </label>
        <div class="row">
          <TextField v-model="days[c.id]" :label="`Day off of ${c.name}`" type="date" class="date" />
          <v-btn size="small" :disabled="!days[c.id]" @click="off(i)">Add the day</v-btn>
        </div>
        <v-btn size="small" variant="text" @click="remove(i)">Remove {{ c.name }}</v-btn>
      </fieldset>
      <fieldset class="sheet crew">
        <legend>Limited equipment</legend>
        <p class="small quiet">0 = unlimited</p>
        <div class="machines">
          <NumberField
            v-for="(name, m) in machines"
            :key="m"
            :label="name"
            :model-value="house.machines?.find((k) => k.machine === m)?.count ?? 0"
            whole
            :least="0"
            :most="100"
            @update:model-value="count(m, $event)"
          />
        </div>
        <template v-if="few.length > 0">
          <ul class="off">
            <template v-for="m in few" :key="m.machine">
              <li v-for="(l, n) in m.off ?? []" :key="n" class="small">
                {{ machines[m.machine] }} out of use {{ dated(l.from)
                }}{{ l.until > l.from ? ` to ${dated(l.until)}` : '' }}
                <button
                  type="button"
                  class="plain"
                  :aria-label="`Back in use: ${machines[m.machine]}, ${dated(l.from)}`"
                  @click="
                    out(
                      m.machine,
                      (m.off ?? []).filter((_, k) => k !== n),
                    )
                  "
                >
                  Back in use
                </button>
              </li>
            </template>
          </ul>
          <div class="row">
            <PickField
              v-model="broken.machine"
              class="which"
              label="Machine that is out of use"
              :options="Object.fromEntries(few.map((m) => [m.machine, machines[m.machine]]))"
            />
            <TextField v-model="broken.from" label="Out of use from" type="date" class="date" />
            <TextField v-model="broken.until" label="Until" type="date" class="date" />
            <v-btn
              size="small"
              :disabled="!broken.machine || !broken.from"
              data-test="machine-out"
              @click="breaks"
              >Out of use</v-btn
            >
          </div>
        </template>
      </fieldset>
    </div>
  </div>
</template>

<style scoped>
.steps {
  max-width: 240px;
}
.busy {
  display: block;
  margin: 8px 0;
}
.crews {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(440px, 100%), 1fr));
  gap: 16px;
}
.crew {
  padding: 10px 14px;
}
.pair {
  display: grid;
  grid-template-columns: 2fr 1fr;
  gap: 10px;
}
.machines {
  display: grid;
  grid-template-columns: repeat(2, 1fr);
  gap: 10px;
}
.which {
  width: auto;
}
.date {
  max-width: 190px;
}
.plain {
  text-decoration: underline;
}
.off {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}
legend {
  font-weight: 700;
}
</style>
