<script setup lang="ts">
import PickField from '../../fields/PickField.vue'
import TextField from '../../fields/TextField.vue'
import { computed } from 'vue'
import HoursFields from './HoursFields.vue'
import { useDesk } from './useEditor'
import { useSession } from '../../session/session'

const open = defineModel<boolean>({ required: true })
const desk = useDesk()
const session = useSession()
type Field = 'client' | 'site' | 'notes'

function set(field: Field, event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim()
  desk.editor.edit(`job ${field}`, (f) => (f.job[field] = text || undefined))
}

function zone(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim()
  desk.editor.edit('zone', (f) => (f.job.zone = name || undefined))
}
function light(event: Event): void {
  const at = (event.target as HTMLInputElement).value
  desk.editor.edit('light', (f) => (f.job.light = at || undefined))
}
function finished(event: Event): void {
  const day = (event.target as HTMLInputElement).value
  desk.editor.edit('done', (f) => (f.job.done = day || undefined))
}
/** What the plan says against a field. */
function fault(path: string): string {
  const found = desk.plan.value.findings.find((f) => f.level === 'refused' && f.path.startsWith(path))
  return found ? `${found.text} ${found.wayOut ?? ''}` : ''
}

const currencies = [
  'EUR',
  'USD',
  'GBP',
  'CAD',
  'AUD',
  'NZD',
  'CHF',
  'SEK',
  'NOK',
  'DKK',
  'PLN',
  'CZK',
  'MXN',
  'BRL',
  'ZAR',
  'JPY',
  'INR',
]
const offered = computed(() =>
  [...new Set([desk.file.value.job.currency, ...currencies])].map((c): [string, string] => [c, c]),
)
function setCurrency(currency: string): void {
  desk.editor.edit('currency', (f) => (f.job.currency = currency))
}
</script>

<template>
  <v-dialog v-model="open" aria-label="Job details">
    <div class="sheet details">
      <h2>Job details</h2>
      <TextField
        label="Client"
        maxlength="160"
        :model-value="desk.file.value.job.client"
        :readonly="!session.mayEdit"
        @change="set('client', $event)"
      />
      <TextField
        label="Site"
        maxlength="300"
        :model-value="desk.file.value.job.site"
        :readonly="!session.mayEdit"
        @change="set('site', $event)"
      />
      <TextField
        :lines="5"
        label="Notes"
        maxlength="4000"
        :model-value="desk.file.value.job.notes"
        :readonly="!session.mayEdit"
        @change="set('notes', $event)"
      />
      <TextField
        label="Time zone of the site"
        maxlength="60"
        :model-value="desk.file.value.job.zone"
        :readonly="!session.mayEdit"
        told="As IANA names it, such as Europe/Oslo; clock times are read there"
        :fault="fault('/job/zone')"
        @change="zone"
      />
      <HoursFields
        :hours="desk.file.value.job.hours"
        :locked="!session.mayEdit"
        :fault="fault('/job/hours')"
        @change="(h) => desk.editor.edit('hours', (f) => (f.job.hours = h))"
      />
      <TextField
        label="Daylight until"
        type="time"
        :model-value="desk.file.value.job.light"
        :readonly="!session.mayEdit"
        :fault="fault('/job/light')"
        told="No artificial light: when daylight no longer shows hair and thin spots"
        @change="light"
      />
      <TextField
        label="Finished on"
        type="date"
        :model-value="desk.file.value.job.done"
        :readonly="!session.mayEdit"
        told="A job with a day here stands among those done"
        @change="finished"
      />
      <PickField
        label="Currency of the job"
        :model-value="desk.file.value.job.currency"
        :options="offered"
        @update:model-value="setCurrency"
      />
      <div><v-btn color="primary" variant="flat" @click="open = false">Done</v-btn></div>
    </div>
  </v-dialog>
</template>

<style scoped>
.details {
  padding: 24px;
  display: grid;
  gap: 14px;
}
</style>
