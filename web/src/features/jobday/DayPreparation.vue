<script setup lang="ts">
import { computed } from 'vue'
import type { RecordStep } from '../../api/client'
import FoldPanel from '../../fields/FoldPanel.vue'
import { minuteTime } from '../../fields/clock'
import DayStep from './DayStep.vue'
import { kindWords } from './words'
import type { DayAtJob } from './useDay'

/** The preparation of the surfaces: what can be done now, what waits, what was closed. */
const props = defineProps<{ here: DayAtJob; steps: RecordStep[] }>()
const now = computed(() => props.steps.filter((s) => s.state === 'ready' || s.state === 'under-way'))
const later = computed(() => props.steps.filter((s) => s.state === 'waits' || s.state === 'blocked'))
const closed = computed(() => props.steps.filter((s) => s.state === 'closed'))
</script>

<template>
  <section aria-labelledby="preparation-title" data-test="preparation">
    <div class="title">
      <h2 id="preparation-title">Preparation: {{ closed.length }} of {{ steps.length }} closed</h2>
      <button
        v-if="here.last.value?.kind === 'completed'"
        type="button"
        class="touch"
        data-test="take-back"
        @click="here.strike(here.last.value.id)"
      >
        Void entry: {{ kindWords.completed }}
      </button>
    </div>
    <p v-if="now.length === 0" class="none">
      {{ later.length ? 'Nothing can be done now: what is next waits.' : 'All of it is closed.' }}
    </p>
    <DayStep v-for="s in now" :key="s.task" :here="here" :step="s" />
    <ol v-if="later.length" class="later" data-test="steps-later">
      <li v-for="s in later" :key="s.task">
        <b>{{ s.place }}: {{ s.name }}</b>
        <span v-if="s.from">from {{ minuteTime(s.from, here.zone.value) }}</span>
      </li>
    </ol>
    <FoldPanel v-if="closed.length" :title="`Closed: ${closed.length}`" data-test="steps-closed">
      <ul class="later">
        <li v-for="s in closed" :key="s.task">
          <b>{{ s.place }}: {{ s.name }}</b>
          <span>{{ s.by }}, {{ minuteTime(s.at ?? '', here.zone.value) }}: {{ s.saw }}</span>
          <button
            v-if="s.event"
            type="button"
            class="touch quiet"
            :aria-label="`Open ${s.name} again`"
            @click="here.strike(s.event)"
          >
            Open again
          </button>
        </li>
      </ul>
    </FoldPanel>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
}
h2 {
  margin: 0;
  font-size: 1.15rem;
}
.title {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
}
.none {
  margin: 0;
  font-size: 1.25rem;
  font-weight: 680;
}
.later {
  margin: 0;
  padding: 4px 16px;
  list-style: none;
  background: var(--paper);
  border: 1px solid var(--line);
}
.later li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  padding: 8px 0;
}
.later li + li {
  border-top: 1px solid var(--line);
}
.later span {
  flex: 1;
}
</style>
