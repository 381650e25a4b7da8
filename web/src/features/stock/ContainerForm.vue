<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import { computed, ref } from 'vue'
import { useShelf } from '../shelf/store'
import type { Container } from '../../api/client'
import NameField from '../../fields/NameField.vue'
import PickField from '../../fields/PickField.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** One container in stock. */
const props = defineProps<{ container: Container; known: boolean; trouble: string }>()
const emit = defineEmits<{ keep: [c: Container]; takeOut: [c: Container]; close: [] }>()
const shelf = useShelf()
void shelf.load()
const draft = ref<Container>({ ...props.container })
const complaint = ref('')
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
function date(event: Event): string | undefined {
  return (event.target as HTMLInputElement).value || undefined
}
function keep(): void {
  if (!draft.value.sheet) {
    complaint.value = 'Choose what it is.'
    return
  }
  emit('keep', draft.value)
}
</script>

<template>
  <div class="sheet pa-5">
    <h2 class="mb-2">{{ known ? 'Change a container' : 'Put in stock' }}</h2>
    <p v-if="complaint || trouble" role="alert">{{ complaint || trouble }}</p>
    <div class="pair">
      <PickField
        label="What it is"
        :model-value="draft.sheet"
        :options="sheets"
        none="choose …"
        @update:model-value="choose"
      />
      <PickField
        v-if="draft.part !== 'medium'"
        label="Which part"
        :model-value="draft.part"
        :options="parts"
        @update:model-value="draft.part = $event as Container['part']"
      />
      <PickField
        v-if="Object.keys(hardeners).length > 0 && draft.part !== 'A'"
        label="With which hardener"
        :model-value="draft.hardener ?? ''"
        :options="hardeners"
        none="the one of the sheet"
        @update:model-value="draft.hardener = $event || undefined"
      />
      <QuantityField
        v-if="draft.part === 'medium'"
        kind="mass"
        label="Mass left"
        :model-value="draft.mass"
        positive
        @update:model-value="draft.mass = $event"
      />
      <QuantityField
        v-else
        kind="volume"
        label="Volume left"
        :told="draft.part === 'kit' ? 'of mix that it makes' : ''"
        :model-value="draft.volume"
        positive
        @update:model-value="draft.volume = $event"
      />
      <NameField
        label="Lot"
        :model-value="draft.lot ?? ''"
        @update:model-value="draft.lot = $event || undefined"
      />
      <NameField
        label="Place"
        :model-value="draft.place ?? ''"
        @update:model-value="draft.place = $event || undefined"
      />
      <TextField
        label="Received"
        type="date"
        :model-value="draft.received"
        @change="draft.received = date($event)"
      />
      <TextField
        label="Expires"
        type="date"
        :model-value="draft.expires"
        @change="draft.expires = date($event)"
      />
      <NameField
        label="Note"
        :model-value="draft.note ?? ''"
        @update:model-value="draft.note = $event || undefined"
      />
      <NameField
        label="Came back from"
        :model-value="draft.from ?? ''"
        @update:model-value="draft.from = $event || undefined"
      />
    </div>
    <label class="small"><input v-model="draft.opened" type="checkbox" /> opened</label>
    <label class="small ml-4"
      ><input v-model="draft.touchUp" type="checkbox" /> kept to match a finished floor, not to be used
      up</label
    >
    <div class="row mt-4">
      <v-btn size="small" data-test="keep-container" @click="keep">Keep</v-btn>
      <v-btn size="small" variant="text" @click="emit('close')">Close</v-btn>
      <span class="grow" />
      <v-btn v-if="known" size="small" variant="text" @click="emit('takeOut', container)"
        >Used up or thrown away</v-btn
      >
    </div>
  </div>
</template>
