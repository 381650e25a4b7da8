<script setup lang="ts">
import { dataOf, useRequest } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { api, type PhotoLine } from '../../api/client'
import TextField from '../../fields/TextField.vue'
import TickField from '../../fields/TickField.vue'
import TickList from '../../fields/TickList.vue'
import { dayTime } from '../../fields/clock'
import { useSession } from '../../session/session'
import type { DayAtJob } from '../jobday/useDay'
import SignPad from './SignPad.vue'

/** What the client gets, who signed for it, and what goes back to stock. */
const props = defineProps<{ here: DayAtJob; id: string }>()
const session = useSession()
const kept = ref('')
const name = ref('')
const ink = ref('')
const photos = ref<PhotoLine[]>([])
const chosen = ref<string[] | undefined>([])
const { trouble: said, ask } = useRequest()
const MOST = 12

async function load(): Promise<void> {
  photos.value =
    (await dataOf(api.GET('/api/jobs/{job}/photos', { params: { path: { job: props.id } } }))) ?? []
}
void load()
/** How the hand-over is written: on which paper, and with names or roles. */
const letter = ref(session.reads.startsWith('us'))
const roles = ref(false)
const file = (as: string, short = false): string => {
  const query = new URLSearchParams({ as })
  if (as === 'pdf') {
    if (short) query.set('short', 'true')
    if (letter.value) query.set('letter', 'true')
    if (roles.value) query.set('roles', 'true')
    if (kept.value) query.set('kept', kept.value)
    if (chosen.value?.length) query.set('photos', chosen.value.slice(0, MOST).join(','))
  }
  return `/api/jobs/${props.id}/record-file?${query.toString()}`
}
const coats = computed(() =>
  (props.here.day.value?.coats ?? []).flatMap((c) => {
    const plan = props.here.issue.value?.coats.find((p) => p.id === c.id)
    if (!plan || !c.done) return []
    const planned = plan.batches.reduce((sum, b) => sum + b.card.mass, 0)
    const left = planned - c.used.mass - (c.used.lost ?? 0)
    return [
      { id: c.id, name: `${c.surface}, coat ${c.number}: ${c.name}`, plan, left, told: c.used.left ?? 0 },
    ]
  }),
)
const LEAST = 0.05
const over = computed(() => coats.value.filter((c) => c.left > LEAST && c.told === 0))

async function back(c: (typeof coats.value)[number]): Promise<void> {
  said.value = ''
  const id = crypto.randomUUID()
  const density = c.plan.batches[0] ? c.plan.batches[0].card.mass / c.plan.batches[0].card.volume : 0
  const { ok } = await ask(
    api.PUT('/api/stock/{id}', {
      params: { path: { id }, query: { base: 0 } },
      body: {
        id,
        sheet: c.plan.product.id,
        hardener: c.plan.hardener,
        part: 'kit',
        volume: density > 0 ? c.left / density : 0,
        received: new Date().toISOString().slice(0, 10),
        from: props.here.issue.value?.name,
      },
    }),
    'It was not returned to stock.',
    'The server does not answer. Return it to stock when it answers again.',
  )
  if (!ok) return
  if (await props.here.log('leftover', `coat/${c.id}`, { product: c.plan.product.id, mass: c.left }))
    said.value = `${session.format('mass', c.left)} of ${c.plan.name} are back in stock.`
}
async function sign(): Promise<void> {
  if (name.value.trim() === '') {
    said.value = 'Enter the name of the person who signs.'
    return
  }
  const last = props.here.issue.value?.coats.at(-1)
  if (
    await props.here.log('signed', `coat/${last?.id ?? ''}`, {
      text: name.value.trim(),
      ink: ink.value || undefined,
    })
  )
    said.value = ''
}
</script>

<template>
  <section class="sheet part" aria-labelledby="handover-title" data-test="handover">
    <h2 id="handover-title">Hand-over</h2>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-for="c in over" :key="c.id">
      {{ c.name }}: {{ session.format('mass', c.left) }} were planned and not used.
      <v-btn v-if="session.mayEdit" size="small" :aria-label="`Back to stock: ${c.name}`" @click="back(c)"
        >Back to stock</v-btn
      >
    </p>
    <div class="two">
      <div>
        <TextField v-model="kept" label="Retained material, location" maxlength="300" />
        <TickList
          v-if="photos.length"
          v-model="chosen"
          label="Photographs to include"
          :options="Object.fromEntries(photos.map((p) => [p.id, p.caption || dayTime(p.addedAt)]))"
        />
        <div class="row mt-2">
          <TickField v-model="letter" label="Letter paper, else A4" />
          <TickField v-model="roles" label="Roles instead of names" />
        </div>
        <div v-if="session.mayEdit" class="row mt-2">
          <v-btn variant="flat" color="primary" :href="file('pdf', true)" data-test="handover-short"
            >PDF for the client</v-btn
          >
          <v-btn variant="flat" color="primary" :href="file('pdf')" data-test="handover-pdf"
            >PDF in full, for the file</v-btn
          >
          <v-btn :href="file('xlsx')">Workbook</v-btn>
          <v-btn :href="file('csv')">CSV of everything</v-btn>
          <v-btn :href="file('json')">JSON</v-btn>
          <v-btn :href="file('ics')">Maintenance calendar</v-btn>
        </div>
      </div>
      <div>
        <p v-if="here.day.value?.signed">
          Accepted by <b>{{ here.day.value.signed.text }}</b>,
          {{ dayTime(here.day.value.signed.at, here.zone.value) }}; handed over by
          {{ here.day.value.signed.by }}.
        </p>
        <p v-if="here.day.value?.added" data-test="added">
          <b>{{ here.day.value.added === 1 ? '1 entry' : `${here.day.value.added} entries` }}</b> came after
          it was signed and {{ here.day.value.added === 1 ? 'stands' : 'stand' }} apart, as an addition.
          Signed once more, {{ here.day.value.added === 1 ? 'it is' : 'they are' }} part of it.
        </p>
        <form
          v-if="session.mayLead && (!here.day.value?.signed || here.day.value.added)"
          @submit.prevent="sign"
        >
          <TextField v-model="name" label="Accepted by" maxlength="120" />
          <SignPad v-model="ink" class="mt-2" />
          <div class="row">
            <v-btn type="submit" data-test="sign">Sign</v-btn>
            <v-btn v-if="ink" @click="ink = ''">Clear</v-btn>
          </div>
        </form>
      </div>
    </div>
  </section>
</template>

<style scoped>
.part {
  padding: 14px 18px;
  margin-bottom: 14px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 20px;
  align-items: start;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
