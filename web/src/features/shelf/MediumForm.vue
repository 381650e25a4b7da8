<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Medium, Source } from '../../api/client'
import { entriesRead, type ReadKind } from '../../fields/useReader'
import { idOf } from './useSheetDraft'
import { mediumWords, perWords, unitWords } from './kinds'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'

const props = defineProps<{ medium: Medium; trouble: string }>()
const emit = defineEmits<{ keep: [medium: Medium]; remove: [medium: Medium]; close: [] }>()
const draft = ref<Medium>(JSON.parse(JSON.stringify(props.medium)) as Medium)
type Pack = Medium['packs'][number]
type Use = NonNullable<Medium['use']>
const complaint = ref('')

function pack(i: number, by: Partial<Pack>): void {
  draft.value.packs = draft.value.packs.map((p, n) => (n === i ? { ...p, ...by } : p))
}
function use(by: Partial<Use>): void {
  draft.value.use = { per: 'area', amount: 1, source: 'own-test', ...draft.value.use, ...by }
}
function sourced(
  key: 'grain' | 'density' | 'full' | 'spare' | 'bind' | 'voids',
  kind: ReadKind,
  label: string,
  from: Source,
): Field {
  return { as: 'sourced', kind, label, from, value: draft.value[key], take: (v) => (draft.value[key] = v) }
}
const what = computed<Field[]>(() => {
  const m = draft.value
  return [
    { as: 'name', label: 'Name of the medium', value: m.name, take: (v) => (m.name = v) },
    {
      as: 'pick',
      label: 'Kind',
      value: m.kind,
      options: mediumWords,
      take: (v) => {
        m.kind = v as Medium['kind']
        m.unit = m.kind === 'supply' ? m.unit : undefined
      },
    },
    m.kind === 'supply'
      ? {
          as: 'pick',
          label: 'Counted in',
          value: m.unit ?? 'count',
          options: unitWords,
          take: (v) => (m.unit = v as Medium['unit']),
        }
      : { as: 'name', label: 'Blend', value: m.blend, take: (v) => (m.blend = v || undefined) },
    { as: 'colour', label: 'Colour in drawings', value: m.color ?? '#999999', take: (v) => (m.color = v) },
  ]
})
const amounts = computed<Field[]>(() => {
  if (draft.value.kind === 'supply') return []
  return draft.value.kind === 'tool'
    ? [
        {
          as: 'number',
          label: 'Pieces or metres',
          value: draft.value.use?.amount ?? 1,
          least: 0,
          take: (n) => use({ amount: n }),
        },
        {
          as: 'pick',
          label: 'for each',
          value: draft.value.use?.per ?? 'area',
          options: perWords,
          take: (v) => use({ per: v as Use['per'] }),
        },
      ]
    : [
        sourced('grain', 'film', 'Largest grain', 'sheet'),
        sourced('density', 'density', 'Density of the medium', 'sheet'),
        sourced('full', 'coverage', 'Rate at rejection', 'sheet'),
        sourced('spare', 'fraction', 'Spare bought', 'rule-of-thumb'),
        sourced('bind', 'film', 'Extra binder', 'rule-of-thumb'),
        sourced('voids', 'film', 'Voids filled by the next coat', 'rule-of-thumb'),
      ]
})
/** What the packs of a kind are counted in; pieces or metres where it is nothing measured. */
const packed = computed<ReadKind | undefined>(() => {
  const m = draft.value
  if (m.kind === 'tool') return undefined
  if (m.kind === 'thinner') return 'volume'
  if (m.kind !== 'supply') return 'mass'
  return m.unit === undefined || m.unit === 'count' ? undefined : m.unit
})
const packs = computed<Field[]>(() =>
  draft.value.packs.flatMap((p, i): Field[] => [
    { as: 'name', label: `Pack ${i + 1}`, value: p.name, take: (name) => pack(i, { name }) },
    packed.value
      ? {
          as: 'quantity',
          kind: packed.value,
          label: `Amount in pack ${i + 1}`,
          value: p.amount,
          positive: true,
          take: (amount) => pack(i, { amount }),
        }
      : {
          as: 'number',
          label:
            draft.value.kind === 'tool' ? `Pieces or metres in pack ${i + 1}` : `Pieces in pack ${i + 1}`,
          value: p.amount,
          least: 0,
          take: (n) => pack(i, { amount: n }),
        },
    {
      as: 'number',
      label: `Price of pack ${i + 1}`,
      value: p.price,
      least: 0,
      optional: true,
      take: (price) => pack(i, { price }),
    },
    {
      as: 'name',
      label: `Article no. of pack ${i + 1}`,
      value: p.code,
      take: (code) => pack(i, { code: code || undefined }),
    },
  ]),
)
async function keep(): Promise<void> {
  complaint.value = (await entriesRead()) || (draft.value.name.trim() ? '' : 'Enter a name.')
  if (complaint.value) return
  emit('keep', { ...draft.value, id: draft.value.id || idOf(draft.value.name) })
}
</script>

<template>
  <div class="sheet pa-5 form">
    <h2 class="mb-2">{{ medium.id ? medium.name : 'New medium or tool' }}</h2>
    <p v-if="complaint || trouble" role="alert">{{ complaint || trouble }}</p>
    <FieldGrid :fields="what" />
    <FieldGrid :fields="amounts" />
    <h3 class="mt-3">Packs</h3>
    <FieldGrid :fields="packs" :columns="4" />
    <v-btn
      size="small"
      variant="text"
      @click="
        draft.packs.push({ name: `pack ${draft.packs.length + 1}`, amount: packed === 'volume' ? 0.001 : 1 })
      "
      >Add a pack</v-btn
    >
    <div class="row mt-4">
      <v-btn size="small" data-test="keep-medium" @click="keep">Save</v-btn>
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
</style>
