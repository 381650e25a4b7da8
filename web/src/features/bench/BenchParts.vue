<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { useThrottleFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, type PartsAnswer, type PartsQuestion } from '../../api/client'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import { useSession } from '../../session/session'

/** Cooling or warming the parts before they are mixed: how long, and what for. */
const props = defineProps<{ id: string; hardener?: string; batch: number; from: number }>()
const session = useSession()
const puts = {
  'ice-bath': 'in ice water',
  'warm-bath': 'in warm water',
  blanket: 'under a heating blanket',
  place: 'in a room or van',
}
const COOLER = 8
const COLDEST = 5
const asked = ref<PartsQuestion>({
  mass: props.batch,
  from: props.from,
  to: Math.max(COLDEST, props.from - COOLER),
  put: 'ice-bath',
  place: COLDEST,
  batch: props.batch,
})
const answer = ref<PartsAnswer | null>(null)
const { trouble, newest } = useRequest()

async function work(): Promise<void> {
  const told = await newest(
    api.POST('/api/bench/{id}/parts', {
      params: { path: { id: props.id } },
      body: { ...asked.value, hardener: props.hardener, batch: props.batch },
    }),
    'this cannot be calculated',
    'The server does not answer; ask again when it is back.',
  )
  if (!told) return
  answer.value = told.data ?? null
  if (!told.data && told.status > 0) trouble.value = `Not possible: ${trouble.value}.`
}
const soon = useThrottleFn(work, 60, true)
watch([asked, () => props.hardener, () => props.batch], () => void soon(), { immediate: true, deep: true })

const set = (by: Partial<PartsQuestion>): void => void (asked.value = { ...asked.value, ...by })
const warmth = (label: string, key: 'from' | 'to' | 'place'): Field => ({
  as: 'quantity',
  kind: 'temperature',
  label,
  value: asked.value[key],
  take: (v) => set({ [key]: v }),
})
const fields = computed<(Field | false)[]>(() => [
  {
    as: 'quantity',
    kind: 'mass',
    label: 'Part A in its pail',
    value: asked.value.mass,
    positive: true,
    take: (mass) => set({ mass }),
  },
  warmth('Temperature of the parts', 'from'),
  warmth('Target temperature', 'to'),
  {
    as: 'pick',
    label: 'Pails stand',
    value: asked.value.put,
    options: puts,
    take: (v) => set({ put: v as PartsQuestion['put'] }),
  },
  asked.value.put === 'place' && warmth('Room or van at', 'place'),
  {
    as: 'quantity',
    kind: 'viscosity',
    label: 'Viscosity of part A',
    told: asked.value.viscosity ? '' : 'as the mix of its sheet',
    value: asked.value.viscosity,
    take: (v) => set({ viscosity: v || undefined }),
  },
])
</script>

<template>
  <section data-test="parts-tool">
    <h2>Cooling or warming the parts</h2>
    <FieldGrid :fields="fields" :columns="3" open />
    <p v-if="trouble" role="alert" class="mt-2">{{ trouble }}</p>
    <template v-if="answer">
      <p class="mt-2" data-test="parts-take">
        It takes <b class="big">{{ session.format('span', answer.takes) }}</b>; a batch of
        {{ session.format('mass', batch) }} then has a pot life of
        <b>{{ session.format('span', answer.then) }}</b> instead of {{ session.format('span', answer.now) }}.
        <span v-if="answer.beyond" class="weak">Beyond the sheet.</span>
      </p>
      <ul v-if="answer.notes.length" class="small quiet">
        <li v-for="n in answer.notes" :key="n">{{ n }}</li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
h2 {
  font-size: 1.05rem;
}
.big {
  font-size: 1.3rem;
}
</style>
