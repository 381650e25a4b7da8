<script setup lang="ts">
import { useList } from '../../api/useRequest'
import TextField from '../../fields/TextField.vue'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, type Container } from '../../api/client'
import ContainerForm from './ContainerForm.vue'
import { newId } from '../job/blank'
import { useSession } from '../../session/session'

const session = useSession()
const route = useRoute()
const words = ref('')
const { list: groups, trouble, change } = useList(() => api.GET('/api/stock'), 'The stock cannot be read.')
const open = ref<Container | null>(null)
const out = ref<{ container: Container; revision: number } | null>(null)
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
  out.value = { container: c, revision: base + 1 }
  open.value = null
}
async function bringBack(): Promise<void> {
  if (out.value && (await keep(out.value.container, out.value.revision))) out.value = null
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
    <p v-if="out" role="status" class="mb-2">
      Removed from stock. <v-btn size="small" @click="bringBack">Restore it</v-btn>
    </p>
    <section
      v-for="g in shown"
      :key="g.sheet + (g.hardener ?? '')"
      class="sheet group"
      :data-test="`stock-${g.sheet}`"
    >
      <div class="row">
        <svg class="swatch" aria-hidden="true"><rect width="26" height="16" :fill="g.color ?? 'none'" /></svg>
        <h2 class="grow">{{ g.name }}</h2>
        <span v-if="g.mix > 0" class="small"
          >free and in date: <b>{{ session.format('volume', g.mix) }}</b> of mix</span
        >
      </div>
      <p v-for="text in g.lone" :key="text" class="lone small">{{ text }}</p>
      <div class="scroll" tabindex="0" role="region" :aria-label="`Containers of ${g.name}`">
        <table class="figures lots">
          <thead>
            <tr>
              <th>Left</th>
              <th>Lot</th>
              <th>Expires</th>
              <th>Place</th>
              <th>For</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in g.lines" :key="l.container.id" :data-test="`container-${l.container.id}`">
              <td>
                <b>{{ left(l.container) }}</b> {{ parts[l.container.part]
                }}{{ l.container.opened ? ', opened' : '' }}
              </td>
              <td>{{ l.container.lot ?? '—' }}</td>
              <td :class="{ expired: l.expired }">
                {{ l.container.expires ?? '—' }}{{ l.expired ? ', expired' : '' }}
              </td>
              <td>{{ l.container.place ?? '—' }}</td>
              <td class="small">
                <span v-if="l.container.touchUp">kept for touch-up </span>
                <span v-for="r in l.reservedBy" :key="r.job"
                  ><router-link :to="`/jobs/${r.job}`">{{ r.name }}</router-link>
                </span>
                <span v-if="l.reservedBy.length > 1" class="expired">
                  reserved twice: release it in one job</span
                >
                <span v-if="l.container.from" class="quiet">from {{ l.container.from }}. </span>
                <span v-if="l.container.note" class="quiet">{{ l.container.note }}</span>
              </td>
              <td>
                <v-btn
                  v-if="session.mayEdit"
                  size="small"
                  variant="text"
                  :aria-label="`Change ${g.name}, ${l.container.lot ?? l.container.id}`"
                  @click="open = { ...l.container }"
                  >Change</v-btn
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
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
  max-width: 300px;
}
.group {
  padding: 12px 16px;
  margin-bottom: 12px;
}
.swatch {
  width: 26px;
  height: 16px;
}
.scroll {
  overflow-x: auto;
}
.lots td {
  width: 15%;
}
.lots td:nth-child(5) {
  width: 34%;
}
.lots td:last-child {
  text-align: right;
}
.lone,
.expired {
  color: var(--warn);
  font-weight: 620;
}
</style>
