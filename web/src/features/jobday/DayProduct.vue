<script setup lang="ts">
import { ref } from 'vue'
import { api, type OtherPlan, type RecordCoat, type ShelfLine } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import { useSession } from '../../session/session'
import type { DayAtJob } from './useDay'

/** Another product for a coat that is not begun: planned anew by the server, told first, then issued. */
const props = defineProps<{ here: DayAtJob; plan: RecordCoat; reason: string; unsaid: boolean }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const { trouble, busy, ask } = useRequest()
const AWAY =
  'Another product needs a connection: the server plans it. Move to where there is one, or go on as planned.'
const MOST = 8
const SHOWN = 6
const found = ref<ShelfLine[]>()
const chosen = ref<ShelfLine>()
const told = ref<OtherPlan>()
let save = ''

async function offer(): Promise<void> {
  const query = { kind: [props.plan.product.kind], stock: true, limit: 60 }
  const { data } = await ask(api.GET('/api/shelf', { params: { query } }), 'The shelf cannot be read.', AWAY)
  if (!data) return
  found.value = data.sheets
    .filter((l) => l.sheet.id !== props.plan.product.id)
    .sort((a, b) => (b.stock ?? 0) - (a.stock ?? 0))
    .slice(0, MOST)
}
void offer()
async function planned(line: ShelfLine, keep: boolean): Promise<OtherPlan | undefined> {
  const body = {
    saveId: save,
    coat: props.plan.id,
    product: line.sheet.id,
    reason: props.reason,
    keep,
  }
  const path = { job: props.here.issue.value?.job ?? '' }
  const { data } = await ask(
    api.POST('/api/jobs/{job}/other-product', { params: { path }, body }),
    'It cannot be planned with this product.',
    AWAY,
  )
  return data
}
async function look(line: ShelfLine): Promise<void> {
  save = crypto.randomUUID()
  chosen.value = line
  told.value = undefined
  told.value = await planned(line, false)
}
async function take(): Promise<void> {
  const line = chosen.value
  if (!line || !(await planned(line, true))) return
  const text = `${line.sheet.name} instead of ${props.plan.name}`
  await props.here.levelAnew()
  props.here.take()
  await props.here.log('deviation', `coat/${props.plan.id}/pour`, { text, reason: props.reason })
  emit('done')
}
const handOf = (l: ShelfLine): string =>
  l.stock ? `${session.format('volume', l.stock)} at hand` : 'none at hand'
</script>

<template>
  <div class="product" data-test="other-product">
    <button v-if="!found" type="button" class="touch" :disabled="busy" @click="offer">
      Another product…
    </button>
    <template v-else>
      <p>
        {{
          found.length
            ? `Lay coat ${String(plan.number)} with another product of its kind, on the film planned:`
            : 'The shelf has no other product of this kind.'
        }}
      </p>
      <div class="day-line">
        <button
          v-for="l in found"
          :key="l.sheet.id"
          type="button"
          class="touch"
          :disabled="unsaid || busy"
          :aria-pressed="chosen?.sheet.id === l.sheet.id"
          @click="look(l)"
        >
          {{ l.sheet.name }}, {{ handOf(l) }}
        </button>
      </div>
    </template>
    <p v-if="trouble" role="alert" class="fault">{{ trouble }}</p>
    <div v-if="told" class="told" role="status" data-test="other-told">
      <p v-for="w in told.warns.slice(0, SHOWN)" :key="w" class="caution">{{ w }}</p>
      <p class="supply">{{ told.supply }}</p>
      <p v-for="c in told.changes.slice(0, SHOWN)" :key="c.text">{{ c.text }}</p>
      <p v-if="told.changes.length > SHOWN">{{ told.changes.length - SHOWN }} more changes.</p>
      <button type="button" class="touch main" data-test="take-product" :disabled="busy" @click="take">
        Lay {{ chosen?.sheet.name }}: issue the plan anew
      </button>
    </div>
  </div>
</template>

<style scoped>
.product,
.told {
  display: grid;
  gap: 8px;
}
p {
  margin: 0;
}
.supply {
  font-weight: 680;
}
.caution {
  padding-left: 10px;
  border-left: 6px solid var(--warn);
  font-weight: 640;
}
.fault {
  color: var(--stop);
  font-weight: 640;
}
</style>
