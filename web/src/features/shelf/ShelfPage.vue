<script setup lang="ts">
import { useOwnFloors } from '../record/useOwnFloors'
import TickField from '../../fields/TickField.vue'
import PickField from '../../fields/PickField.vue'
import TextField from '../../fields/TextField.vue'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Product } from '../../api/client'
import PartsNav from '../../shell/PartsNav.vue'
import { chemistryWords, kindWords } from './kinds'
import { isWeak } from '../../fields/sources'
import { useSession } from '../../session/session'
import { useInTurn } from '../../fields/useInTurn'
import { useShelf } from './store'

const session = useSession()
const shelf = useShelf()
/** The search stands a frame before the table does. */
const standing = useInTurn(2)
const words = ref('')
const kind = ref('')
const chemistry = ref('')
const archived = ref(false)
const picked = ref<string[]>([])
const MOST_COMPARED = 4

function search(): Promise<void> {
  return shelf.load({
    q: words.value ?? '',
    kind: kind.value ? [kind.value] : undefined,
    chemistry: chemistry.value || undefined,
    archived: archived.value,
  })
}
const soon = useDebounceFn(search, 120)
watch(words, () => void soon())
watch([kind, chemistry, archived], () => void search())
void search()
const narrowed = computed(() => !!words.value || kind.value !== '' || chemistry.value !== '')

function film(p: Product): string {
  const most = p.filmMax ? session.format('film', p.filmMax.value) : ''
  const least = p.filmMin ? session.format('film', p.filmMin.value) : ''
  return [least, most].filter(Boolean).join(' – ') || '—'
}
function near20<T extends { at: number }>(points: T[] | undefined): T | undefined {
  const ROOM = 20
  return points?.toSorted((a, b) => Math.abs(a.at - ROOM) - Math.abs(b.at - ROOM))[0]
}
function life(p: Product): string {
  const point = near20(p.potLife)
  if (!point) return p.components.length === 1 ? 'single-pack' : '—'
  return `${session.format('span', point.lasts)} at ${session.format('temperature', point.at)}`
}
function recoat(p: Product): string {
  const from = near20(p.recoatFrom)
  const until = near20(p.recoatUntil)
  if (!from && !until) return '—'
  return `${from ? session.format('span', from.after) : '?'} – ${until ? session.format('span', until.after) : 'open'}`
}
function weak(p: Product): boolean {
  return isWeak(p.ratio.source) || isWeak(p.volumeSolids.source) || p.components.some((c) => !c.density)
}
const headers = computed(() => [
  { title: 'Compare', key: 'compare', width: 84, sortable: false },
  { title: 'Product', key: 'name' },
  { title: 'For', key: 'use' },
  { title: 'Wet film', key: 'film', align: 'end' as const },
  { title: 'Pot life', key: 'life', align: 'end' as const },
  { title: 'Next coat', key: 'recoat', align: 'end' as const },
  { title: 'VOC', key: 'voc', align: 'end' as const },
  { title: 'At hand', key: 'stock', align: 'end' as const },
])
const floors = useOwnFloors()
/** On how many own jobs a product is on record, at most of one way of laying it. */
const proven = computed(() => {
  const jobs = new Map<string, number>()
  for (const l of floors.value) jobs.set(l.product, Math.max(jobs.get(l.product) ?? 0, l.jobs))
  return jobs
})
/** Figures by which the columns are sorted; what is shown of each is written beside. */
const rows = computed(() =>
  shelf.lines.map(({ sheet, stock }) => ({
    id: sheet.id,
    sheet,
    name: sheet.name,
    use: `${kindWords[sheet.kind]}, ${chemistryWords[sheet.chemistry]}`,
    film: sheet.filmMax?.value ?? sheet.filmMin?.value ?? 0,
    life: near20(sheet.potLife)?.lasts ?? 0,
    recoat: near20(sheet.recoatFrom)?.after ?? 0,
    voc: sheet.voc?.value ?? 0,
    stock: stock ?? 0,
  })),
)
</script>

<template>
  <div class="page">
    <div class="row mb-2">
      <h1 class="grow">Shelf</h1>
      <template v-if="session.mayKeep">
        <v-btn size="small" to="/shelf/new" data-test="new-sheet">New sheet</v-btn>
        <v-btn size="small" to="/shelf/sheet" data-test="read-sheet">Read a data sheet</v-btn>
        <v-btn size="small" to="/shelf/prices" data-test="read-prices">Read a price list</v-btn>
        <v-btn size="small" to="/shelf/read" data-test="read-file">Import</v-btn>
      </template>
      <v-btn size="small" variant="text" href="/api/shelf-file?form=json" data-test="export-json"
        >As JSON</v-btn
      >
      <v-btn size="small" variant="text" href="/api/shelf-file?form=csv" data-test="export-csv">As CSV</v-btn>
    </div>
    <PartsNav of="shelf" />
    <div class="narrow mb-3">
      <TextField v-model="words" label="Search name, kind, film, window or colour" type="search" />
      <PickField v-model="kind" label="Kind" open none="all kinds" :options="kindWords" />
      <PickField v-model="chemistry" label="Chemistry" open none="all" :options="chemistryWords" />
      <TickField v-model="archived" label="archived" />
    </div>
    <p v-if="shelf.trouble" role="alert">{{ shelf.trouble }}</p>
    <p v-else-if="!shelf.ready" class="quiet">Reading the shelf …</p>
    <p v-else-if="shelf.lines.length === 0" class="quiet">
      {{
        archived
          ? 'Nothing is archived.'
          : narrowed
            ? 'No sheet matches these words.'
            : 'The shelf is empty. Enter the first sheet, import a file, or begin with samples.'
      }}
      <v-btn v-if="!archived && !narrowed && session.mayKeep" size="small" class="ml-2" to="/start"
        >Guided set-up</v-btn
      >
    </p>
    <template v-else-if="standing > 1">
      <div class="row small mb-2">
        <span class="quiet" aria-live="polite" data-test="shelf-count">
          {{ shelf.total }} {{ shelf.total === 1 ? 'sheet' : 'sheets'
          }}{{ shelf.total > shelf.lines.length ? `, the first ${shelf.lines.length} shown` : '' }}
        </span>
        <span class="grow" />
        <v-btn
          v-if="picked.length > 1"
          size="small"
          :to="{ path: '/shelf/compare', query: { id: picked } }"
          data-test="compare"
          >Compare {{ picked.length }}</v-btn
        >
        <span v-else class="quiet">Tick two to four to compare them.</span>
      </div>
      <v-data-table-virtual
        class="rows"
        :headers="headers"
        :items="rows"
        item-value="id"
        density="compact"
        fixed-header
        height="calc(100vh - 330px)"
        :mobile-breakpoint="600"
        :row-props="({ item }) => ({ 'data-test': `sheet-${item.id}` })"
      >
        <template #[`item.compare`]="{ item }">
          <TickField
            :heard="`Compare ${item.name}`"
            :model-value="picked.includes(item.id)"
            :disabled="picked.length >= MOST_COMPARED && !picked.includes(item.id)"
            @update:model-value="
              picked = $event ? [...picked, item.id] : picked.filter((id) => id !== item.id)
            "
          />
        </template>
        <template #[`item.name`]="{ item }">
          <svg class="swatch" aria-hidden="true">
            <rect width="26" height="16" :fill="item.sheet.color" />
          </svg>
          <router-link :to="`/shelf/p/${item.id}`">{{ item.name }}</router-link>
          <span
            v-if="proven.has(item.id)"
            v-tooltip="'Jobs of our own with it on record'"
            class="small quiet ml-2"
          >
            {{ proven.get(item.id) === 1 ? '1 own job' : `${proven.get(item.id)} own jobs` }}</span
          >
          <strong v-if="item.sheet.sample" class="weak small"> sample</strong>
          <span
            v-else-if="weak(item.sheet)"
            v-tooltip="'Some values are assumed or rules of thumb'"
            class="weak small"
          >
            weak</span
          >
        </template>
        <template #[`item.film`]="{ item }">{{ film(item.sheet) }}</template>
        <template #[`item.life`]="{ item }">{{ life(item.sheet) }}</template>
        <template #[`item.recoat`]="{ item }">{{ recoat(item.sheet) }}</template>
        <template #[`item.voc`]="{ item }">{{
          item.sheet.voc ? session.format('content', item.sheet.voc.value) : '—'
        }}</template>
        <template #[`item.stock`]="{ item }">{{
          item.stock ? session.format('volume', item.stock) : '—'
        }}</template>
      </v-data-table-virtual>
    </template>
  </div>
</template>

<style scoped>
.narrow {
  display: grid;
  grid-template-columns: 1.6fr 1fr 1fr auto;
  gap: 12px;
  align-items: end;
}
.swatch {
  width: 26px;
  height: 16px;
  margin-right: 10px;
  vertical-align: -3px;
}
@media (max-width: 700px) {
  .narrow {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
