<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, readForecast, type ForecastRead, type TypedDay } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import { entriesRead } from '../../fields/useReader'
import FieldGrid from '../../fields/FieldGrid.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import TextField from '../../fields/TextField.vue'
import type { Field } from '../../fields/grid'
import { useDesk } from '../job/useEditor'

/** The weather of some days as a person knows it, or of hours as a file has them. */
const desk = useDesk()
const { trouble, busy, ask } = useRequest()
const notes = ref<string[]>([])
const picker = ref<HTMLInputElement | null>(null)
const skies = { '0': 'clear', '0.4': 'some cloud', '0.75': 'cloudy', '1': 'overcast' }
const MOST = 14
const day = (at: Date): string =>
  at.toLocaleDateString('sv-SE', { timeZone: desk.plan.value.zone || undefined })
const days = ref<TypedDay[]>([{ on: day(new Date()), low: 10, high: 18, humidity: 0.6 }])

function after(on: string): string {
  const next = new Date(`${on}T12:00:00Z`)
  next.setUTCDate(next.getUTCDate() + 1)
  return next.toISOString().slice(0, 'yyyy-mm-dd'.length)
}
function add(): void {
  const last = days.value.at(-1)
  if (last) days.value.push({ ...last, on: after(last.on) })
}
const fieldsOf = (d: TypedDay, name: string): Field[] => [
  { as: 'quantity', kind: 'temperature', label: `Low${name}`, value: d.low, take: (v) => (d.low = v) },
  { as: 'quantity', kind: 'temperature', label: `High${name}`, value: d.high, take: (v) => (d.high = v) },
  {
    as: 'quantity',
    kind: 'fraction',
    label: `Humidity${name}`,
    value: d.humidity,
    positive: true,
    take: (v) => (d.humidity = v),
  },
  {
    as: 'pick',
    label: `Sky${name}`,
    value: String(d.cloud ?? 0),
    options: skies,
    take: (v) => (d.cloud = Number(v)),
  },
  {
    as: 'number',
    label: `Rain${name}, mm`,
    value: d.rain ?? 0,
    least: 0,
    most: 300,
    take: (v) => (d.rain = v),
  },
  {
    as: 'number',
    label: `Wind${name}, m/s`,
    value: d.wind ?? 0,
    least: 0,
    most: 120,
    take: (v) => (d.wind = v),
  },
]
const rows = computed(() =>
  days.value.map((d, n) => ({
    day: d,
    // The first day keeps its labels, so that what is being read there is not lost when another is added.
    fields: fieldsOf(d, n > 0 ? ` of day ${n + 1}` : ''),
  })),
)
function keep(data: ForecastRead | undefined, label: string): void {
  if (!data) return
  notes.value = data.notes
  desk.editor.edit(label, (f) => (f.job.forecast = data.forecast))
}
async function use(): Promise<void> {
  trouble.value = await entriesRead()
  if (trouble.value) return
  notes.value = []
  const { where } = desk.file.value.job
  const body = { days: days.value, where, zone: desk.plan.value.zone }
  const { data } = await ask(api.POST('/api/forecast/typed', { body }), 'This weather cannot be used.')
  keep(data, 'typed weather')
}
async function read(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  notes.value = []
  const { data } = await ask(readForecast(file), 'This file cannot be read.')
  keep(data, 'imported weather')
}
</script>

<template>
  <FoldPanel title="Type the weather, or import hours" data-test="typed-weather">
    <p class="small quiet">
      Enter each day's low about sunrise, its high in the afternoon and the humidity halfway between. Hours
      are worked out from them.
    </p>
    <div v-for="(r, n) in rows" :key="n" class="day">
      <TextField
        :label="rows.length > 1 ? `Day ${n + 1}` : 'Day'"
        type="date"
        :model-value="r.day.on"
        @change="(e: Event) => (r.day.on = (e.target as HTMLInputElement).value)"
      />
      <FieldGrid :fields="r.fields" :columns="3" />
      <v-btn
        v-if="rows.length > 1"
        size="small"
        variant="text"
        :aria-label="`Remove day ${n + 1}`"
        @click="days.splice(n, 1)"
        >Remove</v-btn
      >
    </div>
    <div class="row mt-2">
      <v-btn size="small" :disabled="days.length >= MOST" data-test="next-day" @click="add"
        >Add the next day</v-btn
      >
      <v-btn size="small" color="primary" variant="flat" :loading="busy" data-test="use-typed" @click="use"
        >Use this weather</v-btn
      >
      <v-btn size="small" :disabled="busy" @click="picker?.click()">Import CSV or JSON</v-btn>
      <input
        ref="picker"
        class="d-none"
        type="file"
        accept=".csv,.json,text/csv,application/json"
        aria-label="Hours of weather to import"
        data-test="weather-file"
        @change="read"
      />
    </div>
    <p v-if="trouble" role="alert" class="small">{{ trouble }}</p>
    <p v-for="text in notes" :key="text" role="status" class="small quiet">{{ text }}</p>
  </FoldPanel>
</template>

<style scoped>
.day {
  display: grid;
  grid-template-columns: 160px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: start;
  margin-bottom: 10px;
}
@media (max-width: 900px) {
  .day {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
