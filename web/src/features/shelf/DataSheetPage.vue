<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Original, type SheetState } from '../../api/client'
import OwnOfSheet from '../record/OwnOfSheet.vue'
import SheetTables from './SheetTables.vue'
import { chemistryWords, kindWords } from './kinds'
import { useSession } from '../../session/session'

const props = defineProps<{ id: string }>()
const router = useRouter()
const session = useSession()
const state = ref<SheetState | null>(null)
const { trouble, ask } = useRequest()
const told = ref('')
const when = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium' })

async function load(): Promise<void> {
  const { data } = await ask(
    api.GET('/api/shelf/{id}', { params: { path: { id: props.id } } }),
    'This sheet cannot be read.',
  )
  if (data) state.value = data
}
void load()

async function remove(): Promise<void> {
  const { data } = await ask(
    api.DELETE('/api/shelf/{id}', { params: { path: { id: props.id } } }),
    'The sheet was not removed.',
  )
  if (!data) return
  if (!data.archived) {
    await router.push('/shelf')
    return
  }
  told.value =
    'It is in use, so it was archived instead: jobs keep it, and new coats are no longer offered it.'
  await load()
}
async function restore(): Promise<void> {
  const { ok } = await ask(
    api.POST('/api/shelf/{id}/restored', { params: { path: { id: props.id } } }),
    'The sheet was not restored.',
  )
  if (!ok) return
  told.value = ''
  await load()
}
const again = (o: Original) => ({ path: '/shelf/sheet', query: { hash: o.hash, file: o.name } })
const places = { job: 'job', system: 'system', stock: 'in stock, lot' }
function placeOf(u: { what: string; id: string }): string {
  if (u.what === 'job') return `/jobs/${u.id}`
  return u.what === 'system' ? '/shelf/systems' : '/stock'
}
</script>

<template>
  <div class="page">
    <p class="small"><router-link to="/shelf">← Shelf</router-link></p>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <template v-if="state">
      <svg class="band" preserveAspectRatio="none" viewBox="0 0 10 10" aria-hidden="true">
        <rect width="10" height="10" :fill="state.sheet.color" />
      </svg>
      <div class="row mb-1">
        <h1 class="grow">{{ state.sheet.name }}</h1>
        <v-btn v-if="state.sheet.potLife?.length" size="small" variant="text" :to="`/bench/${id}`"
          >Open on the bench</v-btn
        >
        <template v-if="session.mayKeep">
          <v-btn size="small" :to="`/shelf/p/${id}/edit`" data-test="edit-sheet">Edit</v-btn>
          <v-btn size="small" variant="text" :to="`/shelf/new?from=${id}`">Copy</v-btn>
          <v-btn v-if="state.archived" size="small" data-test="restore" @click="restore">Restore</v-btn>
          <v-btn v-else size="small" variant="text" data-test="remove-sheet" @click="remove">
            {{ state.users.length ? 'Archive' : 'Delete' }}
          </v-btn>
        </template>
      </div>
      <p class="quiet">
        {{ kindWords[state.sheet.kind] }} · {{ chemistryWords[state.sheet.chemistry] }} · edition
        {{ state.sheet.version }}{{ state.archived ? ' · archived' : '' }}
      </p>
      <p class="my-2">{{ state.sheet.use }}</p>
      <p v-if="state.sheet.original" class="small" data-test="original">
        Read from
        <a :href="`/api/originals/${state.sheet.original.hash}`" download>{{ state.sheet.original.name }}</a>
        <v-btn v-if="session.mayKeep" size="small" variant="text" :to="again(state.sheet.original)"
          >Each value with its line</v-btn
        >
      </p>
      <p v-if="told" role="status" class="told">{{ told }}</p>
      <p v-for="c in state.sheet.cautions ?? []" :key="c" class="caution small">{{ c }}</p>
      <div class="halves">
        <SheetTables :facts="state.facts" />
        <div class="facts">
          <section v-if="state.doubts.length">
            <h2>Check these values</h2>
            <ul>
              <li v-for="d in state.doubts" :key="d.text">{{ d.text }}</li>
            </ul>
          </section>
          <section>
            <h2>Missing data and its effect</h2>
            <p v-if="state.gaps.length === 0" class="quiet">Nothing is missing.</p>
            <ul v-else class="small" data-test="gaps">
              <li v-for="g in state.gaps" :key="g.field + g.name">
                <b>{{ g.name }}</b>: {{ g.costs }}.
              </li>
            </ul>
          </section>
          <OwnOfSheet :product="id" :sheet="state.sheet" />
          <section>
            <h2>Used in</h2>
            <p v-if="state.users.length === 0" class="quiet">No job, system or stock names it.</p>
            <ul v-else class="small">
              <li v-for="u in state.users" :key="u.what + u.id">
                {{ places[u.what] }} <router-link :to="placeOf(u)">{{ u.name }}</router-link>
              </li>
            </ul>
          </section>
          <section>
            <h2>Editions</h2>
            <ol class="small editions" reversed>
              <li v-for="e in state.editions" :key="e.version">
                <b>{{ e.version }}</b> · {{ when.format(new Date(e.changedAt))
                }}{{ e.changedBy ? `, ${e.changedBy}` : '' }}
                <ul v-if="e.changes.length">
                  <li v-for="c in e.changes" :key="c.name">
                    {{ c.name }}: {{ c.was || 'not given' }} → {{ c.is || 'not given' }}
                  </li>
                </ul>
              </li>
            </ol>
          </section>
          <p class="small quiet">The maker's own data sheet and safety data sheet always rule.</p>
        </div>
      </div>
    </template>
    <p v-else-if="!trouble" class="quiet">Opening the sheet …</p>
  </div>
</template>

<style scoped>
.band {
  display: block;
  width: 100%;
  height: 14px;
  margin: 6px 0 10px;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 2.2fr) minmax(0, 1fr);
  gap: 28px;
}
.caution,
.told {
  padding-left: 10px;
  border-left: 4px solid var(--warn);
  margin-bottom: 6px;
}
ul,
ol {
  padding-left: 18px;
}
.editions {
  list-style: none;
  padding: 0;
}
h2 {
  font-size: 1.05rem;
  margin-bottom: 4px;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: 1fr;
  }
}
</style>
