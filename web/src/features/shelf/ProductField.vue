<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, nextTick, ref, useId } from 'vue'
import { api, type Product, type ShelfLine } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import FieldFrame from '../../fields/FieldFrame.vue'
import { useHouse } from '../house/store'
import { money } from '../../session/units'
import { useSession } from '../../session/session'
import { chemistryWords, kindWords } from './kinds'

/**
 * A product of the shelf, found by its name, kind or chemistry, by a film it can be laid at, by a
 * time after which the next coat may follow, or by its colour.
 */
const props = defineProps<{
  label: string
  /** The product chosen now; without one, each choice is an act, such as adding a coat. */
  modelValue?: string
  /** What it is called where the shelf no longer has it. */
  name?: string
  /** The job's own sheets, which stand before the shelf's. */
  own?: Product[]
  bare?: boolean
  placeholder?: string
}>()
const emit = defineEmits<{ choose: [line: ShelfLine] }>()
const session = useSession()
const house = useHouse()
void house.load()
const id = useId()
const { trouble, ask } = useRequest()
const words = ref('')
const found = ref<ShelfLine[]>([])
const total = ref(0)
const loading = ref(false)
const SHOWN = 40
let newest = 0

interface Item {
  value: string
  title: string
  line?: ShelfLine
}
const own = computed(() => props.own ?? [])
const current = computed<Item[]>(() => {
  if (!props.modelValue || found.value.some((l) => l.sheet.id === props.modelValue)) return []
  return [{ value: props.modelValue, title: props.name ?? props.modelValue }]
})
const items = computed<Item[]>(() => [
  ...current.value,
  ...found.value.map((line) => ({ value: line.sheet.id, title: line.sheet.name, line })),
])

async function search(): Promise<void> {
  newest += 1
  const mine = newest
  loading.value = true
  // What stands in the field before anything is typed is the name of what is chosen.
  const q = words.value === props.name ? '' : words.value.trim()
  const { data } = await ask(
    api.GET('/api/shelf', { params: { query: { q, stock: true, limit: SHOWN } } }),
    'The shelf cannot be read.',
    'The server does not answer. Search again when it is back.',
  )
  if (mine !== newest) return
  loading.value = false
  if (!data) return
  const lone = own.value.filter(
    (p) =>
      !data.sheets.some((l) => l.sheet.id === p.id) &&
      q !== '' &&
      p.name.toLowerCase().includes(q.toLowerCase()),
  )
  found.value = [
    ...lone.map((sheet) => ({
      sheet,
      usual: { basis: 'wet-film' as const, value: sheet.filmMin?.value ?? 200e-6 },
      archived: false,
    })),
    ...data.sheets.map((l) => ({ ...l, sheet: own.value.find((p) => p.id === l.sheet.id) ?? l.sheet })),
  ]
  total.value = data.total
}
const soon = useDebounceFn(search, 120)
function typed(text: string): void {
  words.value = text
  void soon()
}
function choose(value: unknown): void {
  const line = found.value.find((l) => l.sheet.id === value)
  if (line && line.sheet.id !== props.modelValue) emit('choose', line)
  // Where the choice was an act, nothing stays chosen.
  if (props.modelValue === undefined) void nextTick(() => (words.value = ''))
}
function begin(event: FocusEvent): void {
  ;(event.target as HTMLInputElement).select()
  void search()
}

/** What tells a product apart from its neighbours in the list. */
function told(l: ShelfLine): string {
  const p = l.sheet
  const film = [p.filmMin, p.filmMax].flatMap((f) => (f ? [session.format('film', f.value)] : []))
  return [kindWords[p.kind], chemistryWords[p.chemistry], film.join(' to ')].filter(Boolean).join(' · ')
}
function offered(l: ShelfLine): string {
  const prices = (l.sheet.kits ?? []).flatMap((k) => (k.price !== undefined && !k.gone ? [k.price] : []))
  const price =
    prices.length > 0 ? `kit from ${money(Math.min(...prices), house.house.currency ?? 'EUR')}` : ''
  return [price, l.stock ? `${session.format('volume', l.stock)} at hand` : ''].filter(Boolean).join(', ')
}
const rest = computed(() => (total.value > found.value.length ? total.value - found.value.length : 0))
</script>

<template>
  <FieldFrame :control="id" :told="trouble">
    <v-autocomplete
      :id="id"
      :label="bare ? undefined : label"
      :aria-label="label"
      :model-value="modelValue ?? null"
      :items="items"
      :loading="loading"
      :disabled="!session.mayEdit"
      :placeholder="placeholder"
      :search="words"
      no-filter
      auto-select-first
      hide-details
      no-data-text="No product on the shelf matches. Try fewer words, a film such as 300 µm, or a colour."
      :menu-props="{ maxHeight: 420, minWidth: 340 }"
      @update:search="typed"
      @update:model-value="choose"
      @focus="begin"
    >
      <template #loader="{ isActive }">
        <v-progress-linear
          v-if="isActive"
          absolute
          indeterminate
          height="2"
          :aria-label="`Searching for ${label}`"
        />
      </template>
      <template #item="{ props: row, item }">
        <v-list-item v-bind="row" :title="undefined" :data-product="item.value">
          <template #prepend>
            <svg class="chip" aria-hidden="true">
              <rect width="14" height="14" :fill="(item as Item).line?.sheet.color ?? 'none'" />
            </svg>
          </template>
          <span class="entry">
            <strong>{{ item.title }}</strong>
            <span v-if="(item as Item).line" class="quiet small">{{
              told((item as Item).line as ShelfLine)
            }}</span>
            <span v-if="(item as Item).line" class="small">{{
              offered((item as Item).line as ShelfLine)
            }}</span>
          </span>
        </v-list-item>
      </template>
      <template v-if="rest > 0" #append-item>
        <p class="small quiet rest">{{ rest }} more; type to narrow the list.</p>
      </template>
    </v-autocomplete>
  </FieldFrame>
</template>

<style scoped>
.entry {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
}
.rest {
  padding: 6px 16px;
}
</style>
