<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { ref } from 'vue'
import { api, type InstrumentLine } from '../../api/client'
import type { Kind } from '../../session/units'
import DayField from './DayField.vue'
import type { Read } from './readings'

/** Slab, air and humidity: typed, or from whatever instruments are there. */
defineProps<{ read: (kind: Kind, text: string) => { si: number; echo: string } }>()
const taken = defineModel<Read>({ required: true })
const { trouble, busy, ask } = useRequest()
const wanted = { 'slab-temperature': 'slab', 'air-temperature': 'air', 'air-humidity': 'humidity' } as const
type Wanted = keyof typeof wanted
const isWanted = (kind: string): kind is Wanted => kind in wanted

const failed = ref<string[]>([])

async function take(instrument: InstrumentLine): Promise<void> {
  const { data } = await ask(
    api.POST('/api/instruments/{instrument}/reading', { params: { path: { instrument: instrument.id } } }),
    'it could not be read.',
    'it does not answer. Type the reading instead.',
  )
  if (!data) failed.value = [...failed.value, `${instrument.name}: ${trouble.value}`]
  for (const v of data?.values ?? [])
    if (isWanted(v.kind)) taken.value = { ...taken.value, [wanted[v.kind]]: v.value }
}
async function instruments(): Promise<void> {
  failed.value = []
  const away = 'The instruments do not answer. Type the readings instead.'
  const { data: all } = await ask(api.GET('/api/instruments'), away, away)
  if (!all) return
  const able = all.filter((i) => i.reads.some(isWanted))
  for (const i of able) await take(i)
  trouble.value = able.length
    ? failed.value.join(' ')
    : 'No instrument that reads these is connected. Type the readings.'
}
</script>

<template>
  <div class="day-line">
    <DayField v-model="taken.slab" kind="temperature" label="Slab" :read="read" />
    <DayField v-model="taken.air" kind="temperature" label="Air" :read="read" />
    <DayField v-model="taken.humidity" kind="fraction" label="Humidity" :read="read" />
    <button type="button" class="touch" :disabled="busy" @click="instruments">Read instruments</button>
    <slot />
    <p v-if="trouble" role="alert" class="wide">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.wide {
  flex-basis: 100%;
  margin: 0;
  color: var(--stop);
  font-weight: 640;
}
</style>
