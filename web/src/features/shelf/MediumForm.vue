<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import { ref } from 'vue'
import type { Medium } from '../../api/client'
import { idOf } from './useSheetDraft'
import { mediumWords, perWords } from './kinds'
import NameField from '../../fields/NameField.vue'
import PickField from '../../fields/PickField.vue'
import SourcedField from '../../fields/SourcedField.vue'

const props = defineProps<{ medium: Medium; trouble: string }>()
const emit = defineEmits<{ keep: [medium: Medium]; remove: [medium: Medium]; close: [] }>()
const draft = ref<Medium>(JSON.parse(JSON.stringify(props.medium)) as Medium)
type Pack = Medium['packs'][number]
type Use = NonNullable<Medium['use']>
const complaint = ref('')

function number(event: Event): number {
  return Number((event.target as HTMLInputElement).value.replace(',', '.')) || 0
}
function pack(i: number, by: Partial<Pack>): void {
  draft.value.packs = draft.value.packs.map((p, n) => (n === i ? { ...p, ...by } : p))
}
function use(by: Partial<Use>): void {
  draft.value.use = { per: 'area', amount: 1, source: 'own-test', ...draft.value.use, ...by }
}
function keep(): void {
  if (!draft.value.name.trim()) {
    complaint.value = 'Give it a name.'
    return
  }
  emit('keep', { ...draft.value, id: draft.value.id || idOf(draft.value.name) })
}
</script>

<template>
  <div class="sheet pa-5 form">
    <h2 class="mb-2">{{ medium.id ? medium.name : 'New medium or tool' }}</h2>
    <p v-if="complaint || trouble" role="alert">{{ complaint || trouble }}</p>
    <div class="pair">
      <NameField
        label="Name of the medium"
        :model-value="draft.name"
        @update:model-value="draft.name = $event"
      />
      <PickField
        label="What it is"
        :model-value="draft.kind"
        :options="mediumWords"
        @update:model-value="draft.kind = $event as Medium['kind']"
      />
      <NameField
        label="Blend"
        :model-value="draft.blend ?? ''"
        @update:model-value="draft.blend = $event || undefined"
      />
      <label class="small"
        >Drawn in
        <input
          type="color"
          :value="draft.color ?? '#999999'"
          @input="draft.color = ($event.target as HTMLInputElement).value"
      /></label>
    </div>
    <div v-if="draft.kind !== 'tool'" class="pair">
      <SourcedField v-model="draft.grain" kind="film" label="Largest grain" from="sheet" />
      <SourcedField v-model="draft.density" kind="density" label="Density of the medium" from="sheet" />
      <SourcedField v-model="draft.full" kind="coverage" label="Rate at rejection" from="sheet" />
      <SourcedField
        v-model="draft.spare"
        kind="fraction"
        label="Bought above the need"
        from="rule-of-thumb"
      />
      <SourcedField v-model="draft.bind" kind="film" label="Extra binder" from="rule-of-thumb" />
      <SourcedField
        v-model="draft.voids"
        kind="film"
        label="Voids filled by the next coat"
        from="rule-of-thumb"
      />
    </div>
    <div v-else class="pair">
      <TextField
        label="Pieces or metres"
        inputmode="decimal"
        :model-value="draft.use?.amount ?? 1"
        @change="use({ amount: number($event) })"
      />
      <PickField
        label="for each"
        :model-value="draft.use?.per ?? 'area'"
        :options="perWords"
        @update:model-value="use({ per: $event as Use['per'] })"
      />
    </div>
    <h3 class="mt-3">Packs</h3>
    <div v-for="(p, i) in draft.packs" :key="i" class="triple">
      <NameField
        :label="`Pack ${i + 1}`"
        :model-value="p.name"
        @update:model-value="pack(i, { name: $event })"
      />
      <TextField
        :label="draft.kind === 'tool' ? `Pieces or metres in pack ${i + 1}` : `kg in pack ${i + 1}`"
        inputmode="decimal"
        :model-value="p.amount"
        @change="pack(i, { amount: number($event) })"
      />
      <TextField
        :label="`Price of pack ${i + 1}`"
        inputmode="decimal"
        :model-value="p.price"
        @change="pack(i, { price: number($event) })"
      />
    </div>
    <v-btn
      size="small"
      variant="text"
      @click="draft.packs.push({ name: `pack ${draft.packs.length + 1}`, amount: 1 })"
      >Add a pack</v-btn
    >
    <div class="row mt-4">
      <v-btn size="small" data-test="keep-medium" @click="keep">Keep</v-btn>
      <v-btn size="small" variant="text" @click="emit('close')">Close</v-btn>
      <span class="grow" />
      <v-btn v-if="medium.id" size="small" variant="text" @click="emit('remove', medium)">Remove</v-btn>
    </div>
  </div>
</template>

<style scoped>
.form {
  max-height: 90vh;
  overflow-y: auto;
}
input[type='color'] {
  display: block;
  width: 100%;
  height: 36px;
}
</style>
