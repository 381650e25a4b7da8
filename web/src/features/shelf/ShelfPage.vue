<script setup lang="ts">
import TickField from '../../fields/TickField.vue'
import PickField from '../../fields/PickField.vue'
import TextField from '../../fields/TextField.vue'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Product } from '../../api/client'
import ShelfNav from './ShelfNav.vue'
import { chemistryWords, kindWords } from './kinds'
import { isWeak } from '../../fields/sources'
import { useSession } from '../../session/session'
import { useShelf } from './store'

const session = useSession()
const shelf = useShelf()
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
</script>

<template>
  <div class="page">
    <div class="row mb-2">
      <h1 class="grow">Shelf</h1>
      <template v-if="session.mayKeep">
        <v-btn size="small" to="/shelf/new" data-test="new-sheet">New sheet</v-btn>
        <v-btn size="small" to="/shelf/read" data-test="read-file">Import</v-btn>
      </template>
      <v-btn size="small" variant="text" href="/api/shelf-file?form=json" data-test="export-json"
        >As JSON</v-btn
      >
      <v-btn size="small" variant="text" href="/api/shelf-file?form=csv" data-test="export-csv">As CSV</v-btn>
    </div>
    <ShelfNav />
    <div class="narrow mb-3">
      <TextField v-model="words" label="Search name, kind or use" type="search" />
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
            : 'The shelf is empty. Enter the first sheet, or read a file of them.'
      }}
    </p>
    <template v-else>
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
      <div class="scroll" tabindex="0" role="region" aria-label="Data sheets">
        <table class="figures lines">
          <thead>
            <tr>
              <th><span class="d-sr-only">Compare</span></th>
              <th>Product</th>
              <th>For</th>
              <th class="num">Wet film</th>
              <th class="num">Pot life</th>
              <th class="num">Next coat</th>
              <th class="num">VOC</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in shelf.lines" :key="l.sheet.id" :data-test="`sheet-${l.sheet.id}`">
              <td>
                <TickField
                  :heard="`Compare ${l.sheet.name}`"
                  :model-value="picked.includes(l.sheet.id)"
                  :disabled="picked.length >= MOST_COMPARED && !picked.includes(l.sheet.id)"
                  @update:model-value="
                    picked = $event ? [...picked, l.sheet.id] : picked.filter((id) => id !== l.sheet.id)
                  "
                />
              </td>
              <td>
                <svg class="swatch" aria-hidden="true">
                  <rect width="26" height="16" :fill="l.sheet.color" />
                </svg>
                <router-link :to="`/shelf/p/${l.sheet.id}`">{{ l.sheet.name }}</router-link>
                <span
                  v-if="weak(l.sheet)"
                  v-tooltip="'Some values are assumed or rules of thumb'"
                  class="weak small"
                >
                  weak</span
                >
              </td>
              <td class="small">{{ kindWords[l.sheet.kind] }}, {{ chemistryWords[l.sheet.chemistry] }}</td>
              <td class="num">{{ film(l.sheet) }}</td>
              <td class="num">{{ life(l.sheet) }}</td>
              <td class="num">{{ recoat(l.sheet) }}</td>
              <td class="num">{{ l.sheet.voc ? session.format('content', l.sheet.voc.value) : '—' }}</td>
            </tr>
          </tbody>
        </table>
      </div>
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
.scroll {
  overflow-x: auto;
}
.swatch {
  width: 26px;
  height: 16px;
  margin-right: 10px;
  vertical-align: -3px;
}
.lines td {
  white-space: nowrap;
}
@media (max-width: 700px) {
  .narrow {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
