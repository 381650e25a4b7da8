<script setup lang="ts">
import type { View } from './figures'
import type { PlanMark } from './plan'

/** Doors, drains, depths, readings and the exit on a plan. */
defineProps<{ marks: PlanMark[]; view: View }>()
const emit = defineEmits<{ carry: [event: PointerEvent, mark: PlanMark] }>()
</script>

<template>
  <g
    v-for="m in marks"
    :key="m.id"
    class="mark"
    :class="[m.kind, { fixed: m.fixed }]"
    :data-test="m.kind"
    @pointerdown="emit('carry', $event, m)"
  >
    <circle :cx="view.x(m.at)" :cy="view.y(m.at)" :r="m.kind === 'exit' ? 11 : 6" />
    <text :x="view.x(m.at)" :y="view.y(m.at) + (m.kind === 'depth' ? -10 : 26)">{{ m.name }}</text>
  </g>
</template>

<style scoped>
text {
  fill: var(--ink);
  font-size: 13px;
  text-anchor: middle;
  pointer-events: none;
}
.mark circle {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 2;
  cursor: grab;
}
.mark.fixed circle {
  cursor: default;
}
.mark text {
  font-weight: 640;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.mark.exit circle {
  fill: none;
  stroke: var(--cure);
  stroke-width: 4;
}
.mark.exit text {
  font-weight: 740;
  fill: var(--cure);
}
.mark.drain circle {
  fill: var(--ink);
}
.mark.reading circle {
  fill: #e2a13b;
}
.mark.depth circle {
  fill: var(--cure);
}
.mark.strip circle {
  stroke: var(--warn);
  stroke-width: 3;
  stroke-dasharray: 4 2;
}
.mark.strip text {
  fill: var(--warn);
}
</style>
