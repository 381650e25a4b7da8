<script setup lang="ts">
import { useList } from '../../api/useRequest'
import TextField from '../../fields/TextField.vue'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, type Container } from '../../api/client'
import ContainerForm from './ContainerForm.vue'
import { newId } from '../job/blank'
import { useTold } from '../../shell/told'
import { useSession } from '../../session/session'
import { useStoreRoom } from './useStoreRoom'

const session = useSession()
const route = useRoute()
const words = ref('')
const { list: groups, trouble, change } = useList(() => api.GET('/api/stock'), 'The stock cannot be read.')
const harmed = useStoreRoom(groups)
const open = ref<Container | null>(null)
const told = useTold()
const shown = computed(() => {
  const wanted = (words.value ?? '').toLowerCase()
  return (groups.value ?? []).filter((g) =>
    `${g.name} ${g.lines.map((l) => `${l.container.lot} ${l.container.place}`).join(' ')}`
      .toLowerCase()
      .includes(wanted),
  )
})

/** What a container stands at; 0 for one that is not there yet. */
const baseOf = (id: string): number =>
  groups.value?.flatMap((g) => g.lines).find((l) => l.container.id === id)?.revision ?? 0

async function keep(c: Container, base = baseOf(c.id)): Promise<boolean> {
  // What was entered stays in the form; kept once more it is made from what stands now.
  const { ok } = await change(
    api.PUT('/api/stock/{id}', { params: { path: { id: c.id }, query: { base } }, body: c }),
    'It was not saved.',
  )
  if (ok) open.value = null
  return ok
}
async function takeOut(c: Container): Promise<void> {
  const base = baseOf(c.id)
  const { ok } = await change(
    api.DELETE('/api/stock/{id}', { params: { path: { id: c.id }, query: { base } } }),
    'It was not removed.',
  )
  if (!ok) return
  told.say('Removed from stock.', () => keep(c, base + 1))
  open.value = null
}

/** A leftover that a job sends here is entered at once. */
function blank(): Container {
  const q = route.query
  const text = (v: unknown): string | undefined => (typeof v === 'string' && v ? v : undefined)
  return {
    id: newId(),
    sheet: text(q.sheet) ?? '',
    hardener: text(q.hardener),
    part: 'kit',
    volume: Number(text(q.volume) ?? 0) || undefined,
    from: text(q.from),
    opened: text(q.from) !== undefined || undefined,
  }
}
if (route.query.sheet) open.value = blank()
const parts = { kit: 'kit', A: 'A', B: 'B', C: 'C', medium: '' }
const headers = computed(() => [
  { title: 'Product', key: 'name', width: '21%' },
  { title: 'Left', key: 'left', width: '15%' },
  { title: 'Free', key: 'free', width: 80, align: 'end' as const },
  { title: 'Lot', key: 'lot', width: 106 },
  { title: 'Expires', key: 'expires', width: 170 },
  { title: 'Place', key: 'place', width: '10%' },
  { title: 'For', key: 'use', cellProps: { class: 'runs' } },
  { title: '', key: 'change', width: 90, align: 'end' as const, sortable: false },
])
/** Values by which the columns are sorted; how each is shown is written beside. */
const rows = computed(() =>
  shown.value.flatMap((group) =>
    group.lines.map((line) => ({
      id: line.container.id,
      group,
      line,
      container: line.container,
      name: group.name,
      left: line.container.mass ?? line.container.volume ?? 0,
      free: group.mix,
      lot: line.container.lot ?? '',
      expires: line.container.expires ?? '',
      place: line.container.place ?? '',
      use: [line.container.touchUp ? 'touch-up' : '', ...line.reservedBy.map((r) => r.name)].join(' '),
    })),
  ),
)
/** Parts that are short of their other part. */
const lone = computed(() => shown.value.flatMap((g) => g.lone ?? []))
function left(c: Container): string {
  return c.part === 'medium' ? session.format('mass', c.mass ?? 0) : session.format('volume', c.volume ?? 0)
}
</script>

<template>
  <div class="page">
    <div class="row mb-3">
      <h1 class="grow">Stock</h1>
      <TextField v-model="words" label="Search name, lot or place" type="search" class="search" />
      <v-btn v-if="session.mayEdit" size="small" data-test="new-container" @click="open = blank()"
        >Add to stock</v-btn
      >
    </div>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-else-if="groups === null" class="quiet">Reading the stock …</p>
    <p v-else-if="groups.length === 0" class="quiet">
      Nothing in stock. Leftovers of jobs, spare kits and flake kept for repair go here.
    </p>
    <p v-else-if="shown.length === 0" class="quiet">Nothing in stock matches these words.</p>
    <template v-else>
      <v-alert v-if="harmed.length" type="warning" class="mb-2" data-test="store-room">
        <div v-for="text in harmed" :key="text">{{ text }}</div>
      </v-alert>
      <v-alert v-for="text in lone" :key="text" type="warning" class="mb-2">{{ text }}</v-alert>
      <v-data-table-virtual
        class="rows lean"
        data-test="containers"
        :headers="headers"
        :items="rows"
        item-value="id"
        density="compact"
        fixed-header
        height="calc(100vh - 170px)"
        :mobile-breakpoint="600"
        :row-props="({ item }) => ({ 'data-test': `container-${item.id}` })"
      >
        <template #[`item.name`]="{ item }">
          <svg class="swatch" aria-hidden="true">
            <rect width="26" height="16" :fill="item.group.color ?? 'none'" />
          </svg>
          {{ item.name }}
        </template>
        <template #[`item.left`]="{ item: { container: c } }">
          <b>{{ left(c) }}</b> {{ parts[c.part] }}{{ c.opened ? ', opened' : '' }}
        </template>
        <template #[`item.free`]="{ item }"
          ><span v-tooltip="'mix of the product that is in date and not reserved'">{{
            item.free > 0 ? session.format('volume', item.free) : '—'
          }}</span></template
        >
        <template #[`item.lot`]="{ item }">{{ item.lot || '—' }}</template>
        <template #[`item.expires`]="{ item }">
          <span :class="{ expired: item.line.expired }"
            >{{ item.expires || '—' }}{{ item.line.expired ? ', expired' : '' }}</span
          >
        </template>
        <template #[`item.place`]="{ item }">{{ item.place || '—' }}</template>
        <template #[`item.use`]="{ item: { line, container: c } }">
          <span v-if="line.look" class="expired">{{ line.look }} </span>
          <span v-if="c.touchUp">kept for touch-up </span>
          <span v-for="r in line.reservedBy" :key="r.job"
            ><router-link :to="`/jobs/${r.job}`">{{ r.name }}</router-link>
          </span>
          <span v-if="line.reservedBy.length > 1" class="expired">
            reserved twice: release it in one job</span
          >
          <span v-if="c.from" class="quiet">from {{ c.from }}. </span>
          <span v-if="c.note" class="quiet">{{ c.note }}</span>
        </template>
        <template #[`item.change`]="{ item }">
          <v-btn
            v-if="session.mayEdit"
            size="small"
            variant="text"
            :aria-label="`Change ${item.name}, ${item.lot || item.id}`"
            @click="open = { ...item.container }"
            >Change</v-btn
          >
        </template>
      </v-data-table-virtual>
    </template>
    <v-dialog
      :model-value="open !== null"
      max-width="640"
      aria-label="Container"
      @update:model-value="open = null"
    >
      <ContainerForm
        v-if="open"
        :container="open"
        :known="(groups ?? []).some((g) => g.lines.some((l) => l.container.id === open?.id))"
        :trouble="trouble"
        @keep="keep($event)"
        @take-out="takeOut"
        @close="open = null"
      />
    </v-dialog>
  </div>
</template>

<style scoped>
.search {
  flex: 0 1 300px;
}
.swatch {
  width: 26px;
  height: 16px;
  margin-right: 10px;
  vertical-align: -3px;
}
.expired {
  color: var(--warn);
  font-weight: 620;
}
</style>
