<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Job } from '../../api/client'
import PickField from '../../fields/PickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import NumberField from '../../fields/NumberField.vue'
import TextField from '../../fields/TextField.vue'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import { isOwnTool } from '../shelf/store'

/** What a site asks of the days: when people are let in, quiet hours, what is not there yet, the way to it. */
const desk = useDesk()
const session = useSession()
const job = computed(() => desk.file.value.job)
const MINUTE = 60
const word = (event: Event): string | undefined => (event.target as HTMLInputElement).value || undefined
function set(label: string, change: (job: Job) => void): void {
  desk.editor.edit(label, (f) => change(f.job))
}
function quiet(side: 'from' | 'until', at: string | undefined): void {
  set('quiet hours', (j) => {
    const now = j.quiet?.[0] ?? { from: '12:00', until: '12:00' }
    const next = { ...now, [side]: at ?? now[side] }
    j.quiet = next.from === next.until ? undefined : [next]
  })
}
function where(side: 'latitude' | 'longitude', value: number | undefined): void {
  set('where it is', (j) => {
    const next = { latitude: 0, longitude: 0, ...j.where, [side]: value ?? 0 }
    j.where = next.latitude === 0 && next.longitude === 0 ? undefined : next
  })
}
const materials = computed(() => [
  ...desk.file.value.products.map((p) => ({ id: `p ${p.id}`, name: p.name })),
  ...(desk.file.value.media ?? [])
    .filter((m) => !isOwnTool(m))
    .map((m) => ({ id: `m ${m.id}`, name: m.name })),
])
const chosen = ref('')
const day = ref('')
function await_(): void {
  const id = chosen.value.slice(2)
  const of = chosen.value.startsWith('p') ? { product: id } : { medium: id }
  set('awaited', (j) => (j.awaited = [...(j.awaited ?? []), { ...of, on: day.value }]))
  chosen.value = day.value = ''
}
const named = (a: NonNullable<Job['awaited']>[number]): string =>
  materials.value.find((m) => m.id === (a.product ? `p ${a.product}` : `m ${a.medium ?? ''}`))?.name ??
  'something no longer planned'
</script>

<template>
  <FoldPanel data-test="site-terms" title="Site restrictions">
    <div class="terms">
      <TextField
        label="Earliest start"
        type="date"
        :model-value="job.earliest"
        :readonly="!session.mayEdit"
        @change="set('earliest', (j) => (j.earliest = word($event)))"
      />
      <TextField
        label="Quiet from"
        type="time"
        :model-value="job.quiet?.[0]?.from"
        :readonly="!session.mayEdit"
        told="No grinding, sanding or vacuuming"
        @change="quiet('from', word($event))"
      />
      <TextField
        label="Quiet until"
        type="time"
        :model-value="job.quiet?.[0]?.until"
        :readonly="!session.mayEdit"
        @change="quiet('until', word($event))"
      />
      <NumberField
        label="Drive from the yard, min"
        :model-value="job.drive ? job.drive / MINUTE : undefined"
        :least="0"
        :most="1440"
        @update:model-value="set('drive', (j) => (j.drive = $event ? $event * MINUTE : undefined))"
      />
      <NumberField
        label="Latitude, °"
        :model-value="job.where?.latitude"
        :least="-90"
        :most="90"
        @update:model-value="where('latitude', $event)"
      />
      <NumberField
        label="Longitude, °"
        :model-value="job.where?.longitude"
        :least="-180"
        :most="180"
        @update:model-value="where('longitude', $event)"
      />
    </div>
    <p class="small quiet">
      Hours on site are those of the job (Client, site, hours); where none are entered, crews may come at any
      hour of theirs. Travel to another job is estimated from the coordinates of both, or from the drive
      times.
    </p>
    <ul v-if="(job.awaited ?? []).length > 0" class="small">
      <li v-for="(a, n) in job.awaited" :key="n">
        {{ named(a) }}: delivery on {{ a.on }}
        <button
          v-if="session.mayEdit"
          type="button"
          class="plain"
          :aria-label="`${named(a)} is delivered`"
          @click="set('delivered', (j) => (j.awaited = j.awaited?.filter((_, k) => k !== n)))"
        >
          delivered
        </button>
      </li>
    </ul>
    <div v-if="session.mayEdit" class="row mt-2">
      <PickField
        v-model="chosen"
        label="Material not delivered yet"
        none="…"
        :options="Object.fromEntries(materials.map((m) => [m.id, m.name]))"
      />
      <TextField v-model="day" label="Delivery date" type="date" class="day" />
      <v-btn size="small" :disabled="!chosen || !day" @click="await_">Add the delivery</v-btn>
    </div>
  </FoldPanel>
</template>

<style scoped>
.terms {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 12px;
  margin: 10px 0 6px;
}
.day {
  max-width: 170px;
}
select {
  width: auto;
}
</style>
