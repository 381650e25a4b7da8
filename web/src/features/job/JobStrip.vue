<script setup lang="ts">
import { computed } from 'vue'
import type { NextWork, StepState } from '../../api/client'
import { dateOnly, dayTime } from '../../fields/clock'
import { stepPath, steps as all } from './steps'

/** The steps of the job, each with how far it is. */
const props = defineProps<{ steps: StepState[]; jobId: string; next?: NextWork; zone?: string }>()
function state(id: string): StepState | undefined {
  return props.steps.find((s) => s.step === id)
}
function words(s: StepState | undefined): string {
  if (s?.state === 'done') return 'done'
  if (s?.state !== 'warnings') return 'to do'
  return s.findings === 1 ? '1 warning' : `${s.findings} warnings`
}
const nextTold = computed(() =>
  props.next ? `${dayTime(props.next.at, props.zone)}${props.next.crew ? `, ${props.next.crew}` : ''}` : '',
)
</script>

<template>
  <nav class="strip" aria-label="Steps of the job">
    <router-link
      v-for="(s, i) in all"
      :key="s.id"
      :to="stepPath(jobId, s.id)"
      :class="s.words ? 'days' : (state(s.id)?.state ?? 'todo')"
      :data-step="s.id"
      :data-state="state(s.id)?.state"
    >
      <span class="number">{{ i + 1 }}</span>
      <span class="name">{{ s.name }}</span>
      <span v-if="s.words && next" v-tooltip="nextTold" class="state" data-test="next-work">{{
        dateOnly(next.at, zone)
      }}</span>
      <span v-else class="state">{{ s.words ?? words(state(s.id)) }}</span>
    </router-link>
  </nav>
</template>

<style scoped>
.strip {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  background: var(--paper);
  border-top: 1px solid var(--line);
}
a {
  position: relative;
  display: grid;
  grid-template-columns: auto auto 1fr;
  gap: 8px;
  align-items: baseline;
  padding: 7px 14px 12px;
  color: inherit;
  text-decoration: none;
  border-right: 1px solid var(--line);
}
a:last-child {
  border-right: 0;
}
a::after {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
  height: 5px;
}
.done::after {
  background: var(--good);
}
.warnings::after {
  background: repeating-linear-gradient(135deg, var(--warn) 0 6px, transparent 6px 11px);
}
.todo::after {
  background: repeating-linear-gradient(90deg, var(--quiet) 0 3px, transparent 3px 9px);
  height: 2px;
}
a.router-link-active {
  background: var(--ground);
  box-shadow: inset 0 3px 0 var(--ink);
}
a:hover:not(.router-link-active) {
  background: var(--faint);
}
.number {
  color: var(--quiet);
  font-size: 13px;
}
.name {
  font-weight: 680;
}
.state {
  font-size: 13px;
  color: var(--quiet);
  text-align: right;
  white-space: nowrap;
}
.warnings .state {
  color: var(--warn);
  font-weight: 640;
}
@media (max-width: 1180px) {
  a {
    grid-template-columns: auto 1fr;
    gap: 6px;
    padding: 7px 8px 12px;
  }
  .number {
    display: none;
  }
}
@media (max-width: 900px) {
  a {
    grid-template-columns: 1fr;
    gap: 0;
    padding: 6px 2px 10px;
    text-align: center;
  }
  .state {
    display: none;
  }
  .name {
    font-size: 13px;
  }
}
</style>
