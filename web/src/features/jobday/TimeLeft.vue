<script setup lang="ts">
import { computed } from 'vue'
import { leftTime } from '../../fields/clock'

/** Time left as digits and as length. */
const props = defineProps<{ until: string; now: number; of?: number; name: string }>()
const MILLIS = 1000
const left = computed(() => (new Date(props.until).getTime() - props.now) / MILLIS)
const share = computed(() => Math.max(0, Math.min(1, left.value / (props.of || 1))))
const HOUR = 3600
const words = computed(() => {
  const s = Math.abs(left.value)
  return s < 2 * HOUR ? leftTime(s) : `${Math.floor(s / HOUR)} h ${Math.floor((s % HOUR) / 60)} min`
})
</script>

<template>
  <div class="time-left" :class="{ over: left <= 0, short: share < 0.25 && left > 0 && of }">
    <b role="timer" :aria-label="`${name}: ${words} ${left > 0 ? 'left' : 'over'}`">{{ words }}</b>
    <span>{{ left > 0 ? name : 'past its limit' }}</span>
    <div v-if="of" class="bar" aria-hidden="true"><i :style="{ width: `${share * 100}%` }" /></div>
  </div>
</template>

<style scoped>
.time-left {
  display: grid;
  grid-template-columns: auto 1fr;
  column-gap: 12px;
  align-items: baseline;
}
b {
  font-size: 2.6rem;
  line-height: 1;
  font-variant-numeric: tabular-nums;
}
.bar {
  grid-column: 1 / -1;
  height: 16px;
  border: 2px solid var(--ink);
  background: var(--well);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--good);
}
.short .bar i {
  background: repeating-linear-gradient(135deg, var(--warn) 0 10px, transparent 10px 14px);
}
.short b {
  color: var(--warn);
}
.over b {
  color: var(--stop);
}
</style>
