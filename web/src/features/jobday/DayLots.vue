<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Card, RecordBatchDay, RecordCoat } from '../../api/client'
import type { DayAtJob } from './useDay'
import { scanned, scans } from '../../fields/useScan'
import TextField from '../../fields/TextField.vue'

/** The lots of a batch's parts: picked from stock, scanned where the browser can, or typed. */
const props = defineProps<{ here: DayAtJob; plan: RecordCoat; batch: RecordBatchDay; card: Card }>()
const lots = ref<string[]>([])
const expires = ref('')
const said = ref('')
watch(
  () => props.batch.number,
  () => (lots.value = props.card.parts.map((_, i) => props.batch.lots?.[i] ?? lots.value[i] ?? '')),
  { immediate: true },
)
const PARTS = ['A', 'B', 'C']
/** The lots in stock of a part, as they were when the plan was issued. */
const stocked = (n: number): NonNullable<RecordCoat['lots']> =>
  (props.plan.lots ?? []).filter((l) => l.part === 'kit' || l.part === PARTS[n])
function pick(lot: string | undefined): void {
  const found = (props.plan.lots ?? []).find((l) => l.lot === lot)
  if (found?.expires) expires.value = found.expires
}
/** A trade item number, which every pack of the product carries. */
const ITEM = /^\d{14}$/
async function scan(n: number, event: Event): Promise<void> {
  said.value = ''
  try {
    const text = await scanned(event)
    if (text) take(n, text)
  } catch (error) {
    said.value = error instanceof Error ? error.message : String(error)
  }
}
/** What tells against a pack; its lot is logged on a second touch only. */
const wrong = ref('')
/** A lot that is typed, picked or sent by a scanner: of a whole barcode its lot and expiry are taken. */
function take(n: number, text: string): void {
  said.value = ''
  wrong.value = ''
  try {
    const label = props.here.label(text, props.plan.id)
    const named = !label.lot && ITEM.test(label.code)
    lots.value[n] = named ? '' : (label.lot ?? text)
    if (label.expires) expires.value = label.expires
    if (label.wrong) wrong.value = label.wrong
    else if (named)
      said.value = 'This barcode names the product and holds no lot. Scan another one, or type the lot.'
  } catch (error) {
    lots.value[n] = text
    said.value = error instanceof Error ? error.message : String(error)
  }
  pick(lots.value[n])
}
async function log(): Promise<void> {
  if (wrong.value && said.value !== wrong.value) {
    said.value = wrong.value
    return
  }
  if (!lots.value.some(Boolean)) return
  if (
    await props.here.log('lot', props.batch.id, { lots: lots.value, expires: expires.value || undefined })
  ) {
    said.value = 'Logged.'
    wrong.value = ''
  }
}
</script>

<template>
  <form class="day-line" @submit.prevent="log">
    <template v-for="(p, n) in card.parts" :key="p.name">
      <TextField
        v-model="lots[n]"
        class="day-text"
        :label="`Lot of ${p.name}`"
        maxlength="120"
        :list="`lots-${n}`"
        @change="lots[n] && take(n, lots[n])"
      />
      <datalist :id="`lots-${n}`">
        <option v-for="l in stocked(n)" :key="l.lot" :value="l.lot">
          {{ l.expires ? `expires ${l.expires}` : '' }}
        </option>
      </datalist>
      <label v-if="scans" class="touch"
        >Scan<input type="file" accept="image/*" capture="environment" hidden @change="scan(n, $event)"
      /></label>
    </template>
    <TextField v-model="expires" class="day-text" label="Expires" type="date" />
    <button type="submit" class="touch main">
      {{ wrong && said === wrong ? 'Log it all the same' : 'Log lots' }}
    </button>
    <p v-if="wrong || said" role="alert" :class="{ stop: wrong }" data-test="lots-said">
      {{ wrong || said }}
    </p>
  </form>
</template>

<style scoped>
.stop {
  color: var(--stop);
  font-weight: 700;
}
</style>
