<script setup lang="ts">
import { computed, ref } from 'vue'
import type { OwnStep, StepChange } from '../../api/client'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import { entriesRead } from '../../fields/useReader'
import { newId } from '../job/blank'

/** A piece of preparation that a person adds: what it is, how long it takes, and what it uses. */
const props = defineProps<{ step?: StepChange }>()
const emit = defineEmits<{ keep: [step: StepChange]; close: [] }>()
type Like = NonNullable<OwnStep['like']>
type Item = NonNullable<OwnStep['items']>[number]
const likes: Record<Like, string> = {
  grind: 'grinding',
  'shot-blast': 'shot-blasting',
  screen: 'screening',
  sand: 'sanding',
  scrape: 'scraping',
  vacuum: 'vacuuming',
  degrease: 'degreasing, wet',
  etch: 'etching, with acid',
  rinse: 'rinsing, wet',
  fill: 'filling',
}
const kinds: Record<Item['kind'], string> = {
  volume: 'volume',
  mass: 'mass',
  count: 'pieces',
  area: 'area',
  length: 'length',
}
const own = ref<OwnStep>(
  props.step?.own
    ? { ...props.step.own, items: props.step.own.items?.map((i) => ({ ...i })) }
    : { name: '', work: 3600 },
)
const complaint = ref('')
const what = computed<Field[]>(() => [
  { as: 'name', label: 'Name of the step', value: own.value.name, take: (v) => (own.value.name = v) },
  {
    as: 'pick',
    label: 'Machines and skills as for',
    value: own.value.like,
    options: likes,
    none: 'none of its own',
    take: (v) => (own.value.like = (v || undefined) as Like | undefined),
  },
  {
    as: 'quantity',
    kind: 'span',
    label: 'Work for one person',
    value: own.value.work,
    take: (v) => (own.value.work = v),
  },
  {
    as: 'number',
    label: 'People at it',
    told: own.value.people ? '' : 'the whole crew',
    value: own.value.people,
    whole: true,
    least: 1,
    most: 40,
    optional: true,
    take: (n) => (own.value.people = n),
  },
  {
    as: 'quantity',
    kind: 'span',
    label: 'Wait before the next step',
    value: own.value.drying,
    take: (v) => (own.value.drying = v || undefined),
  },
  {
    as: 'name',
    label: 'How it is done',
    value: own.value.how,
    take: (v) => (own.value.how = v || undefined),
  },
  {
    as: 'name',
    label: 'Done when',
    value: own.value.check,
    take: (v) => (own.value.check = v || undefined),
  },
])
const uses = computed<Field[]>(() =>
  (own.value.items ?? []).flatMap((item, n): Field[] => [
    { as: 'name', label: `Material ${n + 1}`, value: item.name, take: (v) => (item.name = v) },
    {
      as: 'pick',
      label: `Measured in (${n + 1})`,
      value: item.kind,
      options: kinds,
      take: (v) => (item.kind = v as Item['kind']),
    },
    item.kind === 'count'
      ? {
          as: 'number',
          label: `Amount ${n + 1}`,
          value: item.value,
          least: 0,
          take: (v) => (item.value = v ?? 0),
        }
      : {
          as: 'quantity',
          kind: item.kind,
          label: `Amount ${n + 1}`,
          value: item.value,
          take: (v) => (item.value = v),
        },
  ]),
)
function addMaterial(): void {
  own.value.items = [...(own.value.items ?? []), { name: '', kind: 'volume', value: 0.001 }]
}
async function keep(): Promise<void> {
  complaint.value = (await entriesRead()) || (own.value.name.trim() ? '' : 'Enter a name for the step.')
  if (complaint.value) return
  const items = (own.value.items ?? []).filter((i) => i.name.trim() && i.value > 0)
  emit('keep', {
    ...props.step,
    id: props.step?.id ?? newId(),
    own: { ...own.value, name: own.value.name.trim(), items: items.length > 0 ? items : undefined },
  })
}
</script>

<template>
  <div class="own" data-test="own-step">
    <p v-if="complaint" role="alert" class="small">{{ complaint }}</p>
    <FieldGrid :fields="what" :columns="3" />
    <FieldGrid v-if="uses.length > 0" class="mt-2" :fields="uses" :columns="3" />
    <div class="row mt-2">
      <v-btn size="small" color="primary" variant="flat" data-test="keep-step" @click="keep">{{
        step ? 'Save the step' : 'Add the step'
      }}</v-btn>
      <v-btn size="small" variant="text" @click="addMaterial">Add a material</v-btn>
      <v-btn size="small" variant="text" @click="emit('close')">Close</v-btn>
    </div>
  </div>
</template>

<style scoped>
.own {
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 12px 14px;
}
</style>
