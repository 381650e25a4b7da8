<script setup lang="ts">
import type { RecordWait } from '../../api/client'
import { dueTime } from '../../fields/clock'

/** What the day waits for: tape, drips, the next coat, the first use; each with its minute. */
const props = defineProps<{ waits: RecordWait[]; now: number; zone?: string }>()
const isDue = (w: RecordWait): boolean => new Date(w.due).getTime() <= props.now
</script>

<template>
  <section v-if="waits.length > 0" class="waits" aria-labelledby="waits-title" data-test="waits">
    <h2 id="waits-title">Comes due</h2>
    <ul>
      <li v-for="w in waits" :key="`${w.coat} ${w.text}`" :class="{ due: isDue(w) }">
        <b class="when">{{ dueTime(w.due, now, zone) }}</b>
        <span
          ><b>{{ w.place }}: {{ w.text }}</b
          ><template v-if="w.otherwise">; otherwise {{ w.otherwise }}</template
          ><small v-if="w.who?.length" class="who">{{ w.who.join(', ') }}</small></span
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
.waits {
  margin-top: 10px;
  padding: 12px 16px;
  background: var(--paper);
  border: 2px solid var(--ink);
  border-radius: 3px;
}
h2 {
  margin: 0;
  font-size: 1rem;
  color: var(--quiet);
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 11.5rem 1fr;
  gap: 4px 16px;
  align-items: baseline;
  padding: 8px 0;
  font-size: 1.1rem;
}
li + li {
  border-top: 1px solid var(--line);
}
li.due {
  padding-left: 10px;
  border-left: 6px solid var(--cure);
}
.when {
  font-variant-numeric: tabular-nums;
}
.who {
  display: block;
  color: var(--quiet);
}
@media (max-width: 800px) {
  li {
    grid-template-columns: 1fr;
  }
}
</style>
