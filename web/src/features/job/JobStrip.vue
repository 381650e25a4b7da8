<script setup lang="ts">
import type { Step, StepState } from '../../api/client'

defineProps<{ steps: StepState[] }>()
const names: Record<Step, string> = {
  measure: 'Measure',
  survey: 'Survey',
  'build-up': 'Build-up',
  kits: 'Kits',
  batches: 'Batches',
  pour: 'Pour',
}
function words(s: StepState): string {
  if (s.state === 'done') return 'done'
  if (s.state === 'todo') return 'to do'
  return s.findings === 1 ? '1 warning' : `${s.findings} warnings`
}
</script>

<template>
  <nav class="strip" aria-label="Steps of the job">
    <a
      v-for="(s, i) in steps"
      :key="s.step"
      :href="`#${s.step}`"
      :class="s.state"
      :data-step="s.step"
      :data-state="s.state"
    >
      <span class="number">{{ i + 1 }}</span>
      <span class="name">{{ names[s.step] }}</span>
      <span class="state small">{{ words(s) }}</span>
    </a>
  </nav>
</template>

<style scoped>
.strip {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  border-top: 1px solid var(--line);
  background: var(--paper);
}
a {
  position: relative;
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 8px;
  align-items: baseline;
  padding: 8px 14px 16px;
  color: inherit;
  text-decoration: none;
  border-right: 1px solid var(--line);
  background-image: repeating-linear-gradient(90deg, var(--line) 0 1px, transparent 1px 10%);
  background-size: 100% 5px;
  background-position: bottom 6px left 0;
  background-repeat: no-repeat;
}
a::after {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
  height: 6px;
}
.done::after {
  background: var(--good);
}
.warnings::after {
  background: repeating-linear-gradient(135deg, var(--warn) 0 6px, transparent 6px 11px);
}
.todo::after {
  border: 1px dashed var(--quiet);
}
.number {
  font-weight: 740;
}
.name {
  font-weight: 640;
}
.state {
  color: var(--quiet);
}
.warnings .state {
  color: var(--warn);
  font-weight: 640;
}
@media (max-width: 700px) {
  a {
    grid-template-columns: 1fr;
    padding: 6px 6px 14px;
    gap: 0;
  }
  .number {
    display: none;
  }
  .name {
    font-size: 0.78rem;
  }
  .state {
    font-size: 0.72rem;
  }
}
</style>
