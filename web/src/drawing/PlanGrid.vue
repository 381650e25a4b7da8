<script setup lang="ts">
import { computed } from 'vue'
import type { View } from './figures'

/** The grid of a plan, every fifth line strong; coarser where it would be too fine to see. */
const props = defineProps<{ view: View; width: number; height: number; step: number }>()
const FINEST = 9
const paths = computed(() => {
  const v = props.view
  let step = props.step
  while (step * v.scale < FINEST) step *= 2
  const a = v.at(0, props.height)
  const b = v.at(props.width, 0)
  const drawn = { weak: '', strong: '' }
  for (let i = Math.ceil(a.x / step); i * step <= b.x; i++)
    drawn[i % 5 === 0 ? 'strong' : 'weak'] += `M${v.x({ x: i * step, y: 0 }).toFixed(1)} 0V${props.height}`
  for (let i = Math.ceil(a.y / step); i * step <= b.y; i++)
    drawn[i % 5 === 0 ? 'strong' : 'weak'] += `M0 ${v.y({ x: 0, y: i * step }).toFixed(1)}H${props.width}`
  return drawn
})
</script>

<template>
  <g>
    <path :d="paths.weak" class="grid" />
    <path :d="paths.strong" class="grid strong" />
  </g>
</template>

<style scoped>
.grid {
  stroke: var(--faint);
  stroke-width: 1;
  fill: none;
}
.grid.strong {
  stroke: var(--line);
  stroke-width: 0.7;
}
</style>
