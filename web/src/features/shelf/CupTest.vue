<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, type CupGives, type Product } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import FoldPanel from '../../fields/FoldPanel.vue'
import QuantityField from '../../fields/QuantityField.vue'
import { useSession } from '../../session/session'

/** Three measurements that a person without a data sheet can make, and what they give. */
const emit = defineEmits<{ take: [change: Partial<Product>] }>()
defineProps<{ potLife?: Product['potLife'] }>()
const session = useSession()
const { trouble, ask } = useRequest()
const empty = ref<number>()
const full = ref<number>()
const volume = ref<number>()
const lasts = ref<number>()
const ROOM = 20
const at = ref<number | undefined>(ROOM)
const spread = ref<number>()
const area = ref<number>()
const gives = ref<CupGives>()
const ready = computed(
  () => empty.value !== undefined && full.value && volume.value && at.value !== undefined,
)
const look = useDebounceFn(async () => {
  if (!ready.value) return
  const { data } = await ask(
    api.POST('/api/cup', {
      body: {
        empty: empty.value ?? 0,
        full: full.value ?? 0,
        volume: volume.value ?? 0,
        lasts: lasts.value,
        at: at.value ?? ROOM,
        spread: spread.value,
        area: area.value,
      },
    }),
    'This cannot be worked out.',
  )
  gives.value = data
}, 200)
watch([empty, full, volume, lasts, at, spread, area], () => void look())
</script>

<template>
  <FoldPanel title="No data sheet? Weigh a cup" data-test="cup">
    <p class="small mb-2">
      Gloves and eye protection on, as the safety data sheet says. Weigh an empty cup; mix A and B in their
      ratio, fill the cup to a mark, and weigh again. Note how long it can be poured: it gets hot, so leave it
      outside on sand. Spread a weighed amount on a trial area as you would on the floor.
    </p>
    <div class="fields">
      <QuantityField v-model="empty" kind="mass" label="Empty cup" />
      <QuantityField v-model="full" kind="mass" label="Cup filled to the mark" positive />
      <QuantityField v-model="volume" kind="volume" label="Volume up to the mark" positive />
      <QuantityField v-model="lasts" kind="span" label="Could be poured for" told="optional" />
      <QuantityField v-model="at" kind="temperature" label="Cup and room" />
      <QuantityField v-model="spread" kind="mass" label="Spread on the trial area" told="optional" />
      <QuantityField v-model="area" kind="area" label="Trial area" told="optional" />
    </div>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <ul v-if="gives" class="small" data-test="cup-gives">
      <li v-for="f in gives.faults" :key="f.text">{{ f.text }} {{ f.way }}</li>
      <li v-if="gives.density">
        Density of the mix {{ session.format('density', gives.density.value) }}
        <v-btn size="small" variant="text" @click="emit('take', { density: gives.density })">Take it</v-btn>
      </li>
      <li v-if="gives.potLife">
        Pot life {{ session.format('span', gives.potLife.lasts) }} on
        {{ session.format('mass', gives.potLife.mass ?? 0) }} at
        {{ session.format('temperature', gives.potLife.at) }}; a pail lives shorter, and is planned from it
        <v-btn
          size="small"
          variant="text"
          @click="emit('take', { potLife: [...(potLife ?? []), gives.potLife] })"
          >Take it</v-btn
        >
      </li>
      <li v-if="gives.printed">
        The trial took {{ session.format('coverage', gives.printed.value) }},
        {{ session.format('film', gives.film ?? 0) }} wet
        <v-btn size="small" variant="text" @click="emit('take', { printed: gives.printed })">Take it</v-btn>
      </li>
    </ul>
  </FoldPanel>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px;
}
</style>
