<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Medium, Product, ShelfLine } from '../../api/client'
import PickField from '../../fields/PickField.vue'
import SurfaceTabs from '../job/SurfaceTabs.vue'
import { useDesk } from '../job/useEditor'
import { newId } from '../job/blank'
import { grouped, kindWords } from '../shelf/kinds'
import { useSession } from '../../session/session'
import { useShelf } from '../shelf/store'
import BuildupStack from '../../drawing/BuildupStack.vue'
import BuildUpTerms from './BuildUpTerms.vue'
import CoatRow from './CoatRow.vue'
import FindingList from '../job/FindingList.vue'
import NewerSheets from './NewerSheets.vue'
import ProductSearch from './ProductSearch.vue'
import SystemDialog from './SystemDialog.vue'

const desk = useDesk()
const session = useSession()
const shelf = useShelf()
void shelf.load()
const searching = ref(false)
const choosing = ref(false)

/** The job's own sheets stand before the shelf's of the same id. */
const products = computed(() => {
  const own = desk.file.value.products
  const others = shelf.lines.map((l) => l.sheet).filter((p) => !own.some((o) => o.id === p.id))
  return [...own, ...others].sort((a, b) => a.name.localeCompare(b.name))
})
const media = computed<Medium[]>(() => {
  const own = desk.file.value.media ?? []
  return [...own, ...shelf.media.filter((m) => !own.some((o) => o.id === m.id))]
})
const groups = computed(() =>
  grouped(products.value, kindWords, (p) => p.kind).map((g) => ({
    title: g.name,
    options: Object.fromEntries(g.things.map((p) => [p.id, p.name])),
  })),
)
const topDown = computed(() => desk.surface.value.coats.map((coat, index) => ({ coat, index })).reverse())

function usual(product: Product): ShelfLine['usual'] {
  const known = shelf.lines.find((l) => l.sheet.id === product.id)?.usual
  const film = product.filmMin?.value ?? 200e-6
  return known ?? { basis: 'wet-film', value: film }
}

function add(product: Product, amount: ShelfLine['usual']): void {
  desk.editSurface('add coat', (s, file) => {
    s.coats.push({ id: newId(), product: product.id, amount })
    if (!file.products.some((p) => p.id === product.id)) file.products.push(product)
  })
}

function chosen(id: string): void {
  const product = products.value.find((p) => p.id === id)
  if (id === '…') searching.value = true
  if (product) add(product, usual(product))
}

function found(line: ShelfLine): void {
  searching.value = false
  add(line.sheet, line.usual)
}

function reorder(from: number, to: number): void {
  desk.editSurface('order of coats', (s) => {
    const [moved] = s.coats.splice(from, 1)
    if (moved) s.coats.splice(to, 0, moved)
  })
}
</script>

<template>
  <SurfaceTabs />
  <section id="build-up" class="panel" aria-labelledby="buildup-title">
    <div class="row mb-3">
      <h2 id="buildup-title" class="grow">Build-up</h2>
      <v-btn v-if="session.mayEdit" size="small" data-test="systems" @click="choosing = true"
        >Systems …</v-btn
      >
    </div>
    <BuildUpTerms />
    <NewerSheets />
    <FindingList :findings="desk.findings('build-up')" />
    <div class="halves">
      <BuildupStack
        :coats="desk.surfacePlan.value?.coats ?? []"
        :movable="session.mayEdit"
        :currency="desk.file.value.job.currency"
        @move="reorder"
      />
      <div>
        <PickField
          v-if="session.mayEdit"
          class="add"
          label="Add a coat of"
          data-test="add-coat"
          none="choose from the shelf …"
          :options="shelf.total > shelf.lines.length ? { '…': `search all ${shelf.total} sheets …` } : {}"
          :groups="groups"
          @update:model-value="chosen"
        />
        <p v-if="topDown.length === 0" class="quiet mt-4">
          No coats yet. Begin with a system, or with what goes on the bare surface: a barrier or a primer.
        </p>
        <ol class="coats" reversed>
          <CoatRow
            v-for="c in topDown"
            :key="c.coat.id"
            :coat="c.coat"
            :index="c.index"
            :last="c.index === topDown.length - 1"
            :plan="desk.surfacePlan.value?.coats[c.index]"
            :below="c.index > 0 ? desk.surfacePlan.value?.coats[c.index - 1] : undefined"
            :products="products"
            :media="media"
          />
        </ol>
      </div>
    </div>
    <ProductSearch v-model="searching" @choose="found" />
    <SystemDialog v-model="choosing" />
  </section>
</template>

<style scoped>
.coats {
  list-style: none;
  padding: 0;
}
.add {
  display: flex;
  align-items: center;
  gap: 10px;
  font-weight: 620;
  flex-wrap: wrap;
}
.add {
  max-width: 320px;
}
</style>
