<script setup lang="ts">
import { computed, ref } from 'vue'
import { useShelf } from '../shelf/store'
import { api, type Container } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import { useSession } from '../../session/session'
import TextField from '../../fields/TextField.vue'
import { scanned, scans } from '../../fields/useScan'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import { entriesRead } from '../../fields/useReader'

/** One container in stock. */
const props = defineProps<{ container: Container; known: boolean; trouble: string }>()
const emit = defineEmits<{ keep: [c: Container]; takeOut: [c: Container]; close: [] }>()
const shelf = useShelf()
const session = useSession()
void shelf.load()
const draft = ref<Container>({ ...props.container })
const complaint = ref('')
/** The label of a pack, scanned or typed, fills in what it says. */
const code = ref('')
const labelled = ref('')
const { trouble: unread, busy, ask } = useRequest()
async function readLabel(): Promise<void> {
  labelled.value = ''
  if (!code.value.trim()) return
  const { data } = await ask(
    api.POST('/api/stock-label', { body: { text: code.value } }),
    'This label cannot be read.',
    'The server does not answer. Enter the pack by hand, or read its label again later.',
  )
  if (!data) return
  draft.value = { ...draft.value, ...data.container, id: draft.value.id }
  labelled.value = data.name
}
async function scan(event: Event): Promise<void> {
  unread.value = ''
  try {
    code.value = (await scanned(event)) ?? code.value
    await readLabel()
  } catch (error) {
    unread.value = error instanceof Error ? error.message : String(error)
  }
}
const product = computed(() => shelf.lines.find((l) => l.sheet.id === draft.value.sheet)?.sheet)
const sheets = computed(() =>
  Object.fromEntries([
    ...shelf.lines.map((l) => [l.sheet.id, l.sheet.name] as const),
    ...shelf.media.filter((m) => m.kind !== 'tool').map((m) => [m.id, m.name] as const),
  ]),
)
const parts = computed<Record<string, string>>(() => ({
  kit: 'a whole kit, or mix of one',
  ...Object.fromEntries(
    (product.value?.components ?? []).map((c, i) => [['A', 'B', 'C'][i] ?? 'C', `${c.name} alone`]),
  ),
}))
const hardeners = computed(() =>
  Object.fromEntries((product.value?.hardeners ?? []).map((h) => [h.id, h.name])),
)

function choose(id: string): void {
  draft.value.sheet = id
  draft.value.part = shelf.media.some((m) => m.id === id) ? 'medium' : 'kit'
}
/** A line of its label, left out when empty. */
function line(label: string, key: 'lot' | 'place' | 'note' | 'from'): Field {
  return { as: 'name', label, value: draft.value[key], take: (v) => (draft.value[key] = v || undefined) }
}
function day(label: string, key: 'received' | 'made' | 'openedOn'): Field {
  return { as: 'date', label, value: draft.value[key], take: (v) => (draft.value[key] = v || undefined) }
}
/** What is entered by hand is on the label; what follows from the shelf life is worked out as it is saved. */
const expiry = computed<Field>(() => ({
  as: 'date',
  label: 'Expires',
  value: draft.value.expires,
  told: draft.value.derived
    ? 'from the day it was made and its shelf life'
    : product.value?.shelfLife
      ? `left empty: ${session.format('span', product.value.shelfLife.value)} after it was made`
      : '',
  take: (v) => {
    draft.value.expires = v || undefined
    draft.value.derived = undefined
  },
}))
const fields = computed<(Field | false)[]>(() => {
  const c = draft.value
  return [
    {
      as: 'pick',
      label: 'Product or medium',
      value: c.sheet,
      options: sheets.value,
      none: 'choose …',
      take: choose,
    },
    c.part !== 'medium' && {
      as: 'pick',
      label: 'Part',
      value: c.part,
      options: parts.value,
      take: (v) => (c.part = v as Container['part']),
    },
    Object.keys(hardeners.value).length > 0 &&
      c.part !== 'A' && {
        as: 'pick',
        label: 'Hardener',
        value: c.hardener,
        options: hardeners.value,
        none: 'standard hardener',
        take: (v) => (c.hardener = v || undefined),
      },
    c.part === 'medium'
      ? {
          as: 'quantity',
          kind: 'mass',
          label: 'Mass left',
          value: c.mass,
          positive: true,
          take: (v) => (c.mass = v),
        }
      : {
          as: 'quantity',
          kind: 'volume',
          label: 'Volume left',
          told: c.part === 'kit' ? 'of mix that it makes' : '',
          value: c.volume,
          positive: true,
          take: (v) => (c.volume = v),
        },
    line('Lot', 'lot'),
    line('Place', 'place'),
    day('Received', 'received'),
    day('Made on', 'made'),
    expiry.value,
    line('Note', 'note'),
    line('Returned from', 'from'),
    { as: 'tick', label: 'opened', value: c.opened, take: (on) => (c.opened = on) },
    c.opened === true && day('Opened on', 'openedOn'),
    {
      as: 'tick',
      label: 'retained to match a finished floor, not for other jobs',
      value: c.touchUp,
      take: (on) => (c.touchUp = on),
    },
  ]
})
async function keep(): Promise<void> {
  complaint.value = (await entriesRead()) || (draft.value.sheet ? '' : 'Choose the product or medium.')
  if (complaint.value) return
  emit('keep', draft.value)
}
</script>

<template>
  <div class="sheet pa-5">
    <h2 class="mb-2">{{ known ? 'Change a container' : 'Add to stock' }}</h2>
    <p v-if="complaint || trouble" role="alert">{{ complaint || trouble }}</p>
    <div class="row">
      <TextField
        v-model="code"
        class="grow"
        label="Barcode or article number of the pack"
        maxlength="200"
        :fault="unread"
        :told="labelled"
        data-test="label"
        @keydown.enter.prevent="readLabel"
      />
      <v-btn size="small" :disabled="busy || !code.trim()" data-test="read-label" @click="readLabel"
        >Read the label</v-btn
      >
      <label v-if="scans" class="v-btn"
        >Scan<input type="file" accept="image/*" capture="environment" hidden @change="scan"
      /></label>
    </div>
    <FieldGrid :fields="fields" />
    <div class="row mt-4">
      <v-btn size="small" data-test="keep-container" @click="keep">Save</v-btn>
      <v-btn size="small" variant="text" @click="emit('close')">Close</v-btn>
      <span class="grow" />
      <v-btn v-if="known" size="small" variant="text" @click="emit('takeOut', container)"
        >Used up or thrown away</v-btn
      >
    </div>
  </div>
</template>
