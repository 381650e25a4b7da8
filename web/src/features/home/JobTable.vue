<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed } from 'vue'
import type { JobLine } from '../../api/client'
import TickField from '../../fields/TickField.vue'
import { dateOnly, dayTime, spokenDay } from '../../fields/clock'
import { money } from '../../session/units'
import { useSession } from '../../session/session'

/** Jobs as rows of a table, sorted by any column. */
const props = defineProps<{ lines: JobLine[]; standing: (l: JobLine) => string }>()
const picked = defineModel<string[]>('picked', { required: true })
const session = useSession()
const end = { align: 'end' as const }
/** Wide enough for who changed a job last, beside what it needs. */
const roomy = useMediaQuery('(min-width: 1500px)')
const headers = computed(() => [
  { title: 'Choose', key: 'choose', width: 70, sortable: false },
  { title: 'Job', key: 'name', width: '18%' },
  { title: 'Client and site', key: 'client', width: '16%' },
  { title: 'Status', key: 'standing', width: 140 },
  { title: 'Area', key: 'area', width: 104, ...end },
  { title: 'Kits', key: 'kits', width: 58, ...end },
  { title: 'Cost', key: 'cost', width: 104, ...end },
  { title: 'Starts', key: 'start', width: 112 },
  { title: 'First use', key: 'ready', width: 116 },
  { title: 'Still needs', key: 'needs' },
  ...(roomy.value ? [{ title: 'Changed', key: 'changed', width: 116 }] : []),
])
/** Values by which the columns are sorted; how each is shown is written beside. */
const rows = computed(() =>
  props.lines.map((line) => ({
    id: line.id,
    line,
    name: line.name,
    client: [line.client, line.site].filter(Boolean).join(' · '),
    standing: props.standing(line),
    area: line.summary.area,
    kits: line.summary.kits,
    cost: line.summary.cost ?? 0,
    start: line.summary.start ?? '',
    ready: line.summary.ready ?? '',
    needs: line.summary.needs ?? '',
    changed: line.changedAt,
  })),
)
/** A time as people say it, and to the minute. */
const told = (at: string, { summary: { zone } }: JobLine): string =>
  `${spokenDay(at, zone)}: ${dayTime(at, zone)}`
</script>

<template>
  <v-data-table-virtual
    class="rows lean"
    data-test="job-table"
    :headers="headers"
    :items="rows"
    item-value="id"
    density="compact"
    fixed-header
    height="calc(100vh - 190px)"
    :mobile-breakpoint="600"
  >
    <template #[`item.choose`]="{ item }">
      <TickField
        :heard="`Choose ${item.name} for a purchase`"
        :model-value="picked.includes(item.id)"
        @update:model-value="picked = $event ? [...picked, item.id] : picked.filter((id) => id !== item.id)"
      />
    </template>
    <template #[`item.name`]="{ item }">
      <router-link :to="`/jobs/${item.id}`">{{ item.name }}</router-link>
    </template>
    <template #[`item.area`]="{ item }">{{
      item.area > 0 ? session.format('area', item.area) : '—'
    }}</template>
    <template #[`item.kits`]="{ item }">{{ item.kits > 0 ? item.kits : '—' }}</template>
    <template #[`item.cost`]="{ item }">{{
      item.cost > 0 ? money(item.cost, item.line.summary.currency) : '—'
    }}</template>
    <template v-for="key in ['start', 'ready'] as const" :key="key" #[`item.${key}`]="{ item }">
      <span v-if="item[key]" v-tooltip="told(item[key], item.line)">{{
        dateOnly(item[key], item.line.summary.zone)
      }}</span>
      <template v-else>—</template>
    </template>
    <template #[`item.needs`]="{ item }"
      ><span v-tooltip="item.needs">{{ item.needs }}</span></template
    >
    <template #[`item.changed`]="{ item }"
      ><span v-tooltip="`${dayTime(item.changed)}, ${item.line.changedBy}`">{{
        dateOnly(item.changed)
      }}</span></template
    >
  </v-data-table-virtual>
</template>
