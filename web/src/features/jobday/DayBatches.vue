<script setup lang="ts">
import { computed } from 'vue'
import type { RecordBatchDay, RecordCoat, RecordCoatDay } from '../../api/client'
import { minuteTime } from '../../fields/clock'

/** Every batch of a coat with how far it is; one is chosen to work at. */
const props = defineProps<{ coat: RecordCoatDay; plan: RecordCoat; zone?: string }>()
const chosen = defineModel<number>({ required: true })
const words: Record<RecordBatchDay['state'], string> = {
  waiting: 'waits',
  mixing: 'mixing',
  mixed: 'mixed',
  poured: 'poured',
  spread: 'spread',
  rolled: 'done',
  'left-out': 'left out',
}
const lines = computed(() =>
  props.coat.batches.map((b) => ({
    ...b,
    when: b.state === 'waiting' ? b.due.meets : b.state === 'rolled' ? (b.rolled ?? b.due.done) : b.due.done,
  })),
)
</script>

<template>
  <div class="strip" role="group" aria-label="Batches">
    <button
      v-for="b in lines"
      :key="b.number"
      type="button"
      class="touch batch"
      :class="b.state"
      :aria-pressed="chosen === b.number"
      :data-batch="b.number"
      :data-state="b.state"
      @click="chosen = b.number"
    >
      <b>{{ b.number }}</b>
      <span>{{ words[b.state] }}{{ b.attempt > 1 ? `, pail ${b.attempt}` : '' }}</span>
      <span class="at">{{ b.out ? '' : minuteTime(b.when, zone) }}</span>
      <i
        :style="{ background: b.state === 'waiting' || b.out ? 'transparent' : plan.color }"
        aria-hidden="true"
      />
    </button>
  </div>
</template>

<style scoped>
.strip {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(118px, 1fr));
  gap: 8px;
}
.batch {
  display: grid;
  grid-template-columns: auto 1fr;
  column-gap: 8px;
  align-items: baseline;
  text-align: left;
  padding: 6px 10px 0;
  overflow: hidden;
}
.batch b {
  font-size: 1.5rem;
}
.at {
  grid-column: 2;
  font-size: 0.9rem;
  white-space: nowrap;
}
i {
  grid-column: 1 / -1;
  height: 8px;
  margin: 4px -10px 0;
  border-top: 1px solid var(--ink);
}
.mixing i,
.mixed i {
  background-image: repeating-linear-gradient(135deg, var(--paper) 0 4px, transparent 4px 9px) !important;
}
.poured i,
.spread i {
  background-image: repeating-linear-gradient(90deg, transparent 0 12px, var(--paper) 12px 14px) !important;
}
</style>
