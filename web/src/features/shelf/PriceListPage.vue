<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import FoldPanel from '../../fields/FoldPanel.vue'
import PickField from '../../fields/PickField.vue'
import TextField from '../../fields/TextField.vue'
import TickField from '../../fields/TickField.vue'
import {
  api,
  readPrices,
  type House,
  type PriceColumns,
  type PriceList,
  type PriceOffer,
} from '../../api/client'
import { useRequest } from '../../api/useRequest'
import { money } from '../../session/units'
import { usePacks } from './usePacks'

/** A supplier's price list: its columns are chosen once, and what its rows change is shown before it is saved. */
const router = useRouter()
const { trouble, busy, ask } = useRequest()
const packs = usePacks()
const supplier = ref('')
const house = ref<House>()
const list = ref<PriceList>()
const name = ref('')
const left = ref(new Set<number>())
const chosen = ref(new Map<number, string>())
let content: Blob | undefined

void ask(api.GET('/api/house'), 'The company standards cannot be read.').then(({ data }) => {
  house.value = data?.house
})
const known = computed(() => (house.value?.suppliers ?? []).map((s) => s.name))
const currency = computed(() => house.value?.currency ?? 'EUR')

async function read(columns?: PriceColumns): Promise<void> {
  if (!content) return
  const { data } = await ask(
    readPrices(content, supplier.value.trim(), columns),
    'This price list cannot be read.',
    'The server does not answer. Read the list again when it is back.',
  )
  list.value = data
  left.value = new Set()
  chosen.value = new Map()
}
async function open(file: File | undefined): Promise<void> {
  if (!file) return
  name.value = file.name
  content = file
  list.value = undefined
  await read()
}
async function pick(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  await open(file)
}
const drop = (event: DragEvent): void => void open(event.dataTransfer?.files[0])
async function of(known: string): Promise<void> {
  supplier.value = known
  await read()
}

const A = 'A'.charCodeAt(0)
const LETTERS = 26
const letter = (n: number): string =>
  n < LETTERS
    ? String.fromCharCode(A + n)
    : `${String.fromCharCode(A + Math.floor(n / LETTERS) - 1)}${String.fromCharCode(A + (n % LETTERS))}`
/** The columns by their letter and heading. */
const columns = computed(() => {
  const heads = list.value?.rows[(list.value.columns.head || 1) - 1] ?? []
  return Array.from({ length: list.value?.width ?? 0 }, (_, i): [string, string] => [
    String(i + 1),
    `${letter(i)}${heads[i] ? `: ${heads[i]}` : ''}`,
  ])
})
type Column = 'name' | 'size' | 'code' | 'price'
const parts: { key: Column; label: string; none: string }[] = [
  { key: 'name', label: 'Product', none: 'none' },
  { key: 'size', label: 'Size of the pack', none: 'in the product’s name' },
  { key: 'code', label: 'Article number or barcode', none: 'none' },
  { key: 'price', label: 'Price of a pack', none: 'choose …' },
]
const marks = { point: '1,234.50', comma: '1.234,50' }
const by = (change: Partial<PriceColumns>): void => {
  if (list.value) void read({ ...list.value.columns, ...change })
}

/** The offer of a row: what it was matched to, or what was chosen for it by hand. */
function offer(line: PriceList['lines'][number]): PriceOffer | undefined {
  const pack = packs.find(chosen.value.get(line.row))
  if (!pack) return line.offer
  return line.price === undefined ? undefined : { ...pack, price: line.price, code: line.code }
}
const was = (line: PriceList['lines'][number]): number | undefined =>
  line.was ?? packs.price(chosen.value.get(line.row))
const changing = computed(() => (list.value?.lines ?? []).filter((l) => offer(l) && !l.same))
const same = computed(() => (list.value?.lines ?? []).filter((l) => l.same).length)
const unmatched = computed(() =>
  (list.value?.lines ?? []).filter((l) => !l.offer && !chosen.value.has(l.row)),
)
const SHOWN = 200
const offers = computed(() =>
  changing.value.filter((l) => !left.value.has(l.row)).flatMap((l) => offer(l) ?? []),
)
function tick(row: number, on: boolean): void {
  const next = new Set(left.value)
  if (on) next.delete(row)
  else next.add(row)
  left.value = next
}
function choose(row: number, pack: string): void {
  chosen.value = new Map(chosen.value).set(row, pack)
}
async function keep(): Promise<void> {
  if (!list.value) return
  if (!supplier.value.trim()) {
    trouble.value = 'Enter the supplier: their next list is then read by the same columns.'
    return
  }
  const { ok } = await ask(
    api.POST('/api/price-list/kept', {
      body: {
        supplier: { name: supplier.value.trim(), columns: list.value.columns },
        offers: offers.value,
      },
    }),
    'No price was saved.',
    'The server does not answer; no price was saved. Try again when it is back.',
  )
  if (ok) await router.push('/shelf')
}
</script>

<template>
  <div class="page" @dragover.prevent @drop.prevent="drop">
    <p class="small"><router-link to="/shelf">← Shelf</router-link></p>
    <h1 class="mb-2">Read a price list</h1>
    <p class="mb-3">
      Choose or drop a supplier’s list as XLSX or CSV. Its rows are matched to the packs of the shelf by
      article number, or by name and size. Nothing is saved until you confirm.
    </p>
    <div class="row mb-3">
      <TextField v-model="supplier" class="supplier" label="Supplier" data-test="supplier" />
      <v-btn v-for="k in known" :key="k" size="small" variant="text" @click="of(k)">{{ k }}</v-btn>
      <label class="v-btn file">
        <input
          type="file"
          accept=".xlsx,.csv,.txt,text/csv"
          aria-label="Price list"
          data-test="price-file"
          @change="pick"
        />
      </label>
    </div>
    <v-progress-linear v-if="busy" indeterminate aria-label="Reading the price list" />
    <p v-if="trouble" role="alert">{{ name ? `${name}: ` : '' }}{{ trouble }}</p>
    <template v-if="list">
      <section class="sheet part" aria-labelledby="columns-title" data-test="columns">
        <h2 id="columns-title">Columns</h2>
        <p v-if="list.proposed && !list.trouble" class="small">
          Told from the headings. Check them once: they are kept for this supplier.
        </p>
        <p v-if="list.trouble" role="status" class="told">{{ list.trouble }}</p>
        <div class="columns">
          <PickField
            v-for="p in parts"
            :key="p.key"
            :label="p.label"
            :options="columns"
            :none="p.none"
            :model-value="list.columns[p.key] ? String(list.columns[p.key]) : ''"
            @update:model-value="by({ [p.key]: Number($event) })"
          />
          <PickField
            label="Fractions are written"
            :options="marks"
            none="as the column shows"
            :model-value="list.columns.decimal ?? ''"
            @update:model-value="by({ decimal: $event as PriceColumns['decimal'] })"
          />
        </div>
        <FoldPanel class="small">
          <template #title>First rows of {{ name }}</template>
          <div class="scroll" tabindex="0" role="region" aria-label="First rows of the list">
            <table class="figures">
              <tbody>
                <tr v-for="(row, n) in list.rows" :key="n">
                  <th scope="row">{{ n + 1 }}</th>
                  <td v-for="i in list.width" :key="i">{{ row[i - 1] ?? '' }}</td>
                </tr>
              </tbody>
            </table>
          </div>
        </FoldPanel>
      </section>
      <section v-if="!list.trouble" class="sheet part" aria-labelledby="changes-title" data-test="prices">
        <div class="row">
          <h2 id="changes-title" class="grow">
            {{ changing.length }} {{ changing.length === 1 ? 'price changes' : 'prices change'
            }}<template v-if="same">, {{ same }} stay as they are</template>
          </h2>
          <v-btn
            variant="flat"
            color="primary"
            data-test="keep-prices"
            :disabled="busy || offers.length === 0"
            @click="keep"
            >Save {{ offers.length }} {{ offers.length === 1 ? 'price' : 'prices' }}</v-btn
          >
        </div>
        <div v-if="changing.length" class="scroll" tabindex="0" role="region" aria-label="Prices that change">
          <table class="figures">
            <thead>
              <tr>
                <th>Take</th>
                <th class="num">Row</th>
                <th>In the list</th>
                <th>On the shelf</th>
                <th class="num">Was</th>
                <th class="num">Price</th>
                <th>Matched by</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="l in changing" :key="l.row" :data-test="`price-${l.row}`">
                <td>
                  <TickField
                    :heard="`Take row ${l.row}`"
                    :model-value="!left.has(l.row)"
                    @update:model-value="tick(l.row, $event)"
                  />
                </td>
                <td class="num">{{ l.row }}</td>
                <td class="small">{{ l.text }}<br v-if="l.code" />{{ l.code }}</td>
                <td>
                  {{ packs.words(offer(l)) }}
                  <span v-if="offer(l)?.added" class="small"> (new size)</span>
                </td>
                <td class="num">{{ was(l) === undefined ? '—' : money(was(l) ?? 0, currency) }}</td>
                <td class="num">
                  <b>{{ money(l.price ?? 0, currency) }}</b>
                </td>
                <td class="small">
                  {{ chosen.has(l.row) ? 'chosen' : l.match === 'code' ? 'article number' : 'name and size' }}
                  <span v-if="l.trouble && !chosen.has(l.row)" class="doubt">{{ l.trouble }}</span>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <p v-else class="quiet">No row changes a price of the shelf.</p>
        <FoldPanel v-if="unmatched.length" class="small mt-3" data-test="unmatched">
          <template #title
            >{{ unmatched.length }} {{ unmatched.length === 1 ? 'row fits' : 'rows fit' }} no pack of the
            shelf</template
          >
          <table class="figures">
            <tbody>
              <tr v-for="l in unmatched.slice(0, SHOWN)" :key="l.row">
                <td class="num">{{ l.row }}</td>
                <td>{{ l.text }} {{ l.code }}</td>
                <td class="num">{{ l.price === undefined ? '' : money(l.price, currency) }}</td>
                <td>{{ l.trouble }}</td>
                <td>
                  <PickField
                    v-if="l.price !== undefined"
                    bare
                    :label="`Pack of row ${l.row}`"
                    none="choose a pack …"
                    :options="packs.options.value"
                    @update:model-value="choose(l.row, $event)"
                  />
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="unmatched.length > SHOWN" class="quiet">
            The first {{ SHOWN }} are shown. Rows of products that you do not use need nothing.
          </p>
        </FoldPanel>
      </section>
    </template>
  </div>
</template>

<style scoped>
.part {
  padding: 16px;
  margin-bottom: 16px;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 10px;
  margin: 8px 0;
}
.supplier {
  flex: 0 1 280px;
}
.scroll {
  overflow-x: auto;
}
.doubt {
  display: block;
  color: var(--warn);
}
</style>
