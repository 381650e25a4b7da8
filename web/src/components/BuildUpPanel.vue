<script setup lang="ts">
import { computed } from 'vue'
import type { Product } from '../api/client'
import { useDesk } from '../composables/useEditor'
import { newId } from '../lib/blank'
import { useSession } from '../stores/session'
import BuildupStack from './BuildupStack.vue'
import CoatRow from './CoatRow.vue'
import FindingList from './FindingList.vue'

const props = defineProps<{ shelf: Product[] }>()
const desk = useDesk()
const session = useSession()

/** The job's own sheets stand before the shelf's of the same id. */
const products = computed(() => {
  const own = desk.file.value.products
  return [...own, ...props.shelf.filter((p) => !own.some((o) => o.id === p.id))].sort((a, b) =>
    a.name.localeCompare(b.name),
  )
})
const topDown = computed(() => desk.surface.value.coats.map((coat, index) => ({ coat, index })).reverse())

/** A new coat starts in the middle of what its product's film allows. */
function add(event: Event): void {
  const select = event.target as HTMLSelectElement
  const product = products.value.find((p) => p.id === select.value)
  select.value = ''
  if (!product) return
  const low = product.filmMin?.value ?? 200e-6
  const high = product.filmMax?.value ?? low
  const micron = 1e-6
  const film = Math.round((low + (high - low) / 3) / micron / 10) * 10 * micron
  desk.editSurface('add coat', (s, file) => {
    s.coats.push({ id: newId(), product: product.id, amount: { basis: 'wet-film', value: film } })
    if (!file.products.some((p) => p.id === product.id)) file.products.push(product)
  })
}
</script>

<template>
  <section id="build-up" class="sheet panel" aria-labelledby="buildup-title">
    <h2 id="buildup-title" class="mb-3">3 · Build-up</h2>
    <FindingList :findings="desk.findings('build-up')" />
    <div class="halves">
      <BuildupStack :coats="desk.surfacePlan.value?.coats ?? []" />
      <div>
        <label v-if="session.mayEdit" class="add">
          Next coat on top
          <select class="pick" data-test="add-coat" aria-label="Add a coat of" @change="add">
            <option value="">choose from the shelf …</option>
            <option v-for="p in products" :key="p.id" :value="p.id">
              {{ p.name }} · {{ p.kind.replace('-', ' ') }}
            </option>
          </select>
        </label>
        <p v-if="topDown.length === 0" class="quiet mt-4">
          No coats yet. Begin with what goes on the bare floor: a barrier or a primer.
        </p>
        <ol class="coats" reversed>
          <CoatRow
            v-for="c in topDown"
            :key="c.coat.id"
            :coat="c.coat"
            :index="c.index"
            :last="c.index === topDown.length - 1"
            :plan="desk.surfacePlan.value?.coats[c.index]"
            :products="products"
          />
        </ol>
      </div>
    </div>
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
</style>
