<script setup lang="ts">
import { useIntervalFn, useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Card } from '../../api/client'
import { leftTime, minuteTime } from '../../fields/clock'

/** The clock of one batch, from when A met B: standing, use by, and what is left. */
const props = defineProps<{ card: Card; memory: string; zone?: string }>()
const MILLIS = 1000
const met = useLocalStorage<number | null>(`nephelon.met.${props.memory}`, null, {
  serializer: { read: (v) => Number(v) || null, write: (v) => String(v ?? '') },
})
const now = ref(Date.now())
useIntervalFn(() => (now.value = Date.now()), MILLIS)
const gone = computed(() => (met.value ? (now.value - met.value) / MILLIS : 0))
const life = computed(() => props.card.potLife ?? 0)
const left = computed(() => life.value - gone.value)
const stands = computed(() => {
  const after = props.card.steps.reduce((sum, s) => sum + (s.lasts ?? 0), 0)
  return props.card.induction ? after - gone.value : 0
})
function meet(): void {
  now.value = Date.now()
  met.value = now.value
}
</script>

<template>
  <div class="running no-print" data-test="card-clock">
    <v-btn v-if="!met" size="x-large" variant="flat" color="primary" data-test="meet" @click="meet"
      >Start mixing A + B</v-btn
    >
    <template v-else>
      <p class="left" :class="{ over: left <= 0 }" role="timer" data-test="left">
        <b>{{ leftTime(left) }}</b> {{ left > 0 ? 'left' : 'over' }}
      </p>
      <div class="grow">
        <meter min="0" :max="life" :value="Math.max(0, left)" aria-label="Pot life left" />
        <p>
          Started {{ minuteTime(met, zone) }}, use by <b>{{ minuteTime(met + life * MILLIS, zone) }}</b>{{
            card.beyond ? ' (beyond the sheet)' : ''
          }}<template v-if="stands > 0"
            >. Induction ends in <b>{{ leftTime(stands) }}</b></template
          >.
        </p>
        <p v-if="left <= 0" role="alert">
          <b>Do not use what is left.</b> Spread nothing more of it; if it is hot, carry it outside and leave
          it, never add water, never seal it.
        </p>
      </div>
      <v-btn variant="text" @click="met = null">Clear</v-btn>
    </template>
  </div>
</template>

<style scoped>
.running {
  display: flex;
  gap: 24px;
  align-items: center;
  padding: 12px 22px 0;
}
.left {
  font-size: 1.5rem;
  white-space: nowrap;
}
.left b {
  font-size: 3.4rem;
  font-variant-numeric: tabular-nums;
}
.over {
  color: var(--stop);
}
meter {
  width: 100%;
  height: 18px;
}
p {
  margin: 0;
}
</style>
