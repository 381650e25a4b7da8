<script setup lang="ts">
import { useList } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, type Medium } from '../../api/client'
import MediumForm from './MediumForm.vue'
import PartsNav from '../../shell/PartsNav.vue'
import { grouped, mediumWords, perWords } from './kinds'
import { useSession } from '../../session/session'

const session = useSession()
const told = ref('')
const open = ref<Medium | null>(null)
const MOST = 300
const { list, trouble, change } = useList(
  () => api.GET('/api/shelf', { params: { query: { media: true, limit: MOST } } }),
  'The media cannot be read.',
)
const media = computed(() => list.value?.media ?? null)
const groups = computed(() => grouped(media.value ?? [], mediumWords, (m) => m.kind))

async function keep(medium: Medium): Promise<void> {
  const { ok } = await change(
    api.PUT('/api/media/{id}', { params: { path: { id: medium.id } }, body: medium }),
    'It was not saved.',
  )
  if (ok) open.value = null
}
async function remove(medium: Medium): Promise<void> {
  const { data } = await change(
    api.DELETE('/api/media/{id}', { params: { path: { id: medium.id } } }),
    'It was not removed.',
  )
  told.value = data?.archived
    ? `${medium.name} is in use (${data.users.map((u) => u.name).join(', ')}), so it was archived instead.`
    : ''
  if (data) open.value = null
}
function figures(m: Medium): string {
  const use = m.use
  return [
    m.grain && `grain to ${session.format('film', m.grain.value)}`,
    m.full && `${session.format('coverage', m.full.value)} to rejection`,
    m.spare && `${session.format('fraction', m.spare.value)} spare`,
    use &&
      (use.amount >= 1
        ? `${use.amount} for each ${perWords[use.per]}`
        : `1 for ${Math.round(1 / use.amount)} ${perWords[use.per]}`),
    m.blend,
  ]
    .filter(Boolean)
    .join(' · ')
}
function blank(): Medium {
  return { id: '', name: '', kind: 'flake', packs: [] }
}
/** A preparation material that a job asks for opens as a new one. */
const route = useRoute()
const { supply, unit } = route.query
if (typeof supply === 'string' && session.mayKeep) {
  const pack = unit === 'volume' ? 0.001 : 1
  open.value = {
    id: '',
    name: supply,
    kind: 'supply',
    unit: unit as Medium['unit'],
    packs: [{ name: 'pack 1', amount: pack }],
  }
}
</script>

<template>
  <div class="page">
    <div class="row mb-2">
      <h1 class="grow">Shelf</h1>
      <v-btn v-if="session.mayKeep" size="small" data-test="new-medium" @click="open = blank()"
        >New medium or tool</v-btn
      >
    </div>
    <PartsNav of="shelf" />
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-else-if="media === null" class="quiet">Reading the media …</p>
    <p v-else-if="media.length === 0" class="quiet">
      No media yet: flake, quartz, grit, pigment and tools go here.
    </p>
    <p v-if="told" role="status">{{ told }}</p>
    <div class="groups">
      <section v-for="g in groups" :key="g.name">
        <h2 class="group">{{ g.name }}</h2>
        <ul class="lines">
          <li v-for="m in g.things" :key="m.id">
            <svg class="chip" aria-hidden="true">
              <rect width="14" height="14" :fill="m.color ?? 'none'" />
            </svg>
            <button type="button" class="plain" :disabled="!session.mayKeep" @click="open = { ...m }">
              <strong>{{ m.name }}</strong>
            </button>
            <span class="small quiet">{{ figures(m) }}</span>
            <span class="small packs">{{ m.packs.map((p) => p.name).join(', ') }}</span>
          </li>
        </ul>
      </section>
    </div>
    <v-dialog
      :model-value="open !== null"
      max-width="640"
      aria-label="Medium or tool"
      @update:model-value="open = null"
    >
      <MediumForm
        v-if="open"
        :medium="open"
        :trouble="trouble"
        @keep="keep"
        @remove="remove"
        @close="open = null"
      />
    </v-dialog>
  </div>
</template>

<style scoped>
.group::first-letter {
  text-transform: uppercase;
}
.groups {
  columns: 2 420px;
  column-gap: 28px;
}
section {
  break-inside: avoid;
  margin-bottom: 12px;
}
.lines {
  list-style: none;
  padding: 0;
}
.lines li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: baseline;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
.packs {
  margin-left: auto;
}
</style>
