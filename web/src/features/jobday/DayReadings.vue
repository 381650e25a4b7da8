<script setup lang="ts">
import { ref } from 'vue'
import { api, refusal, type InstrumentLine } from '../../api/client'
import type { Kind } from '../../fields/units'
import DayField from './DayField.vue'
import type { Read } from './readings'

/** Slab, air and humidity: typed, or from whatever instruments are there. */
defineProps<{ read: (kind: Kind, text: string) => { si: number; echo: string } }>()
const taken = defineModel<Read>({ required: true })
const trouble = ref('')
const busy = ref(false)
const wanted = { 'slab-temperature': 'slab', 'air-temperature': 'air', 'air-humidity': 'humidity' } as const
type Wanted = keyof typeof wanted
const isWanted = (kind: string): kind is Wanted => kind in wanted

async function take(instrument: InstrumentLine): Promise<void> {
  const { data, error } = await api.POST('/api/instruments/{instrument}/reading', {
    params: { path: { instrument: instrument.id } },
  })
  if (!data) {
    trouble.value = `${instrument.name}: ${refusal(error, 'it could not be read.')}`
    return
  }
  for (const v of data.values)
    if (isWanted(v.kind)) taken.value = { ...taken.value, [wanted[v.kind]]: v.value }
}
async function instruments(): Promise<void> {
  trouble.value = ''
  busy.value = true
  try {
    const all = (await api.GET('/api/instruments')).data ?? []
    const able = all.filter((i) => i.reads.some(isWanted))
    if (able.length === 0) trouble.value = 'No instrument that reads these is connected. Type the readings.'
    for (const i of able) await take(i)
  } catch {
    trouble.value = 'The instruments do not answer. Type the readings instead.'
  }
  busy.value = false
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
