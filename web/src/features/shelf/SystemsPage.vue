<script setup lang="ts">
import { useList } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { api, type SystemLine } from '../../api/client'
import PageParts from '../../shell/PageParts.vue'
import PartsNav from '../../shell/PartsNav.vue'
import SystemBands from '../../drawing/SystemBands.vue'
import { useSession } from '../../session/session'
import { amountWords } from './kinds'

const session = useSession()
const { list: lines, trouble, change } = useList(() => api.GET('/api/systems'), 'The systems cannot be read.')
const gone = ref<SystemLine | null>(null)
const surfaces = { floor: 'Floors', top: 'Tops', pool: 'Basins and pools' }
const part = ref('floor')
const parts = computed(() =>
  Object.fromEntries(
    Object.entries(surfaces).map(([kind, title]): [string, [string, string]] => [
      kind,
      [title, String((lines.value ?? []).filter((l) => l.system.for === kind).length)],
    ]),
  ),
)
async function remove(line: SystemLine): Promise<void> {
  const { ok } = await change(
    api.DELETE('/api/systems/{id}', {
      params: { path: { id: line.system.id }, query: { base: line.revision } },
    }),
    'It was not removed.',
  )
  if (ok) gone.value = line
}
async function restore(): Promise<void> {
  if (!gone.value) return
  const system = gone.value.system
  const { ok } = await change(
    api.PUT('/api/systems/{id}', { params: { path: { id: system.id }, query: { base: 0 } }, body: system }),
    'It was not restored.',
  )
  if (ok) gone.value = null
}
function amount(c: SystemLine['system']['coats'][number]): string {
  const words = {
    'wet-film': ' wet',
    'dry-film': ' dry',
    spread: '',
    'mass-per-area': '',
    notch: ' notch',
    'area-per-kit': ' a kit',
    'by-stone': ' of its stones',
  }[c.amount.basis]
  return session.format(amountWords[c.amount.basis].kind, c.amount.value) + words
}
</script>

<template>
  <div class="page">
    <h1 class="mb-2">Shelf</h1>
    <PartsNav of="shelf" />
    <p class="small quiet mb-3">
      A system is a saved build-up. To use or save one, open a job and choose “Systems …” in its build-up.
    </p>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-else-if="lines === null" class="quiet">Reading the systems …</p>
    <p v-else-if="lines.length === 0" class="quiet">No systems yet. Save the first from a job's build-up.</p>
    <p v-if="gone" role="status" class="mb-3">
      “{{ gone.system.name }}” was removed. <v-btn size="small" @click="restore">Restore it</v-btn>
    </p>
    <PageParts v-if="lines?.length" v-model="part" class="mb-3" :parts="parts" label="Systems for" />
    <ul class="systems">
      <li v-for="l in (lines ?? []).filter((x) => x.system.for === part)" :key="l.system.id" class="sheet">
        <SystemBands :line="l" />
        <div class="grow">
          <strong>{{ l.system.name }}</strong>
          <p class="small">{{ l.system.use }}</p>
          <ol class="small coats" reversed>
            <li v-for="(c, i) in l.system.coats.toReversed()" :key="i">
              {{ l.products.find((p) => p.id === c.product)?.name ?? c.product }}, {{ amount(c)
              }}{{
                c.scatter
                  ? `, ${l.media.find((m) => m.id === c.scatter?.medium)?.name ?? c.scatter.medium} ${c.scatter.degree === 'full' ? 'to rejection' : c.scatter.degree}`
                  : ''
              }}{{
                c.grit ? `, with ${l.media.find((m) => m.id === c.grit?.medium)?.name ?? c.grit.medium}` : ''
              }}
            </li>
          </ol>
          <p v-if="l.missing.length" class="small">No longer on the shelf: {{ l.missing.join(', ') }}</p>
        </div>
        <v-btn
          v-if="session.mayKeep"
          size="small"
          variant="text"
          :aria-label="`Remove ${l.system.name}`"
          @click="remove(l)"
          >Remove</v-btn
        >
      </li>
    </ul>
  </div>
</template>

<style scoped>
.systems {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 420px), 1fr));
  gap: 12px;
}
.systems > li {
  display: flex;
  gap: 16px;
  align-items: flex-start;
  padding: 12px 14px;
}
.coats {
  padding-left: 18px;
}
</style>
