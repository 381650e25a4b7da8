<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useSession } from '../../session/session'
import FoldPanel from '../../fields/FoldPanel.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** Filling a tank by the clock: seconds for a known volume give those for another. */
const session = useSession()
const known = ref<number>()
const seconds = ref<number>()
const wanted = ref<number>()
const needed = computed(() =>
  known.value && seconds.value && wanted.value ? (seconds.value * wanted.value) / known.value : undefined,
)
const began = ref(0)
const gone = ref(0)
const { pause, resume, isActive } = useIntervalFn(
  () => (gone.value = (Date.now() - began.value) / 1000),
  100,
  {
    immediate: false,
  },
)
const left = computed(() => Math.max(0, (needed.value ?? 0) - gone.value))

function start(): void {
  began.value = Date.now()
  gone.value = 0
  resume()
}
function minutes(s: number): string {
  const whole = Math.round(s)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}
</script>

<template>
  <FoldPanel data-test="tank" title="Filling a tank by the clock">
    <div class="triple">
      <QuantityField v-model="known" kind="volume" label="Known volume" positive />
      <QuantityField v-model="seconds" kind="span" label="Time taken" told="such as 55 s" positive />
      <QuantityField v-model="wanted" kind="volume" label="Wanted volume" positive />
    </div>
    <div v-if="needed" class="row mt-2">
      <span class="clock" data-test="tank-time">{{ minutes(isActive ? left : needed) }}</span>
      <v-btn v-if="!isActive" size="small" @click="start">Start when you open the tap</v-btn>
      <v-btn v-else size="small" @click="pause">Stop</v-btn>
      <meter min="0" :max="needed" :value="isActive ? gone : 0" aria-label="Filled so far" />
      <span v-if="isActive && left === 0" role="alert"><b>Close the tap.</b></span>
      <span class="small quiet"
        >{{ session.format('volume', wanted ?? 0) }}, if the pressure stays the same</span
      >
    </div>
  </FoldPanel>
</template>

<style scoped>
.clock {
  font-size: 2rem;
  font-weight: 720;
}
meter {
  width: 200px;
  height: 22px;
}
</style>
