<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Product, Source } from '../api/client'
import { isWeak, sourceWords } from '../lib/sources'
import type { Kind } from '../lib/units'
import { useSession } from '../stores/session'
import { useShelf } from '../stores/shelf'

const session = useSession()
const shelf = useShelf()
const words = ref('')
void shelf.load()
const found = computed(() => {
  const wanted = words.value?.toLowerCase() ?? ''
  return shelf.products.filter((p) =>
    `${p.name} ${p.kind} ${p.chemistry} ${p.use ?? ''}`.toLowerCase().includes(wanted),
  )
})

interface Row {
  name: string
  value: string
  source: Source
}
function rows(p: Product): Row[] {
  const all: Row[] = [
    {
      name: `Ratio by ${p.ratio.basis}`,
      value: p.components.map((c) => c.parts).join(' : '),
      source: p.ratio.source,
    },
  ]
  const add = (name: string, kind: Kind, v: { value: number; source: Source } | undefined): void => {
    if (v) all.push({ name, value: session.format(kind, v.value), source: v.source })
  }
  for (const c of p.components) add(`Density of ${c.name}`, 'density', c.density)
  add('Density of the mix', 'density', p.density)
  add('Volume solids', 'fraction', p.volumeSolids)
  add('Thinnest wet film', 'film', p.filmMin)
  add('Thickest wet film', 'film', p.filmMax)
  add('Usual loss', 'fraction', p.loss)
  add('Pot life', 'span', p.potLife)
  add('… measured on', 'mass', p.potLifeMass)
  add('… at', 'temperature', p.potLifeAt)
  add('Mixing', 'span', p.mixing)
  add('Standing after mixing', 'span', p.induction)
  for (const k of p.kits) {
    const size =
      k.volume !== undefined ? session.format('volume', k.volume) : session.format('mass', k.mass ?? 0)
    all.push({
      name: `Kit “${k.name}”`,
      value: k.price === undefined ? size : `${size}, ${k.price.toFixed(2)}`,
      source: k.source,
    })
  }
  return all
}
</script>

<template>
  <div class="page">
    <div class="row mb-4">
      <h1 class="grow">Shelf</h1>
      <v-text-field v-model="words" label="Search name, kind or use" type="search" class="search" clearable />
    </div>
    <p v-if="shelf.trouble" role="alert">{{ shelf.trouble }}</p>
    <p v-else-if="!shelf.ready" class="quiet">Reading the shelf …</p>
    <p v-else-if="found.length === 0" class="quiet">No product matches these words.</p>
    <p class="small quiet mb-3">
      Every value names where it came from. Weak ones are <span class="weak">underlined with dashes</span>;
      the maker's own data sheet always rules.
    </p>
    <ul class="products">
      <li v-for="p in found" :key="p.id" class="sheet">
        <svg class="band" preserveAspectRatio="none" viewBox="0 0 10 10" aria-hidden="true">
          <rect width="10" height="10" :fill="p.color" />
        </svg>
        <div class="inner">
          <h2>{{ p.name }}</h2>
          <p class="quiet small">
            {{ p.kind.replace('-', ' ') }} · {{ p.chemistry
            }}{{ p.components.length === 1 ? ' · single-pack' : '' }}
          </p>
          <p class="use">{{ p.use }}</p>
          <table class="figures small">
            <tbody>
              <tr v-for="r in rows(p)" :key="r.name">
                <td>{{ r.name }}</td>
                <td class="num">
                  <span :class="{ weak: isWeak(r.source) }">{{ r.value }}</span>
                </td>
                <td class="quiet">{{ sourceWords[r.source] }}</td>
              </tr>
            </tbody>
          </table>
          <p v-for="c in p.cautions ?? []" :key="c" class="small caution">{{ c }}</p>
        </div>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.search {
  max-width: 340px;
}
.products {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(360px, 1fr));
  gap: 16px;
}
.band {
  display: block;
  width: 100%;
  height: 16px;
}
.inner {
  padding: 14px 18px 18px;
}
.use {
  margin: 8px 0;
}
.caution {
  margin-top: 8px;
  padding-left: 10px;
  border-left: 4px solid var(--warn);
}
@media (max-width: 700px) {
  .products {
    grid-template-columns: 1fr;
  }
}
</style>
