<script setup lang="ts">
import { computed } from 'vue'
import type { Point } from '../api/client'
import type { Draft } from './useDraft'
import { distance, type View } from './figures'
import { useSession } from '../session/session'

/** The line being drawn, up to the cursor. */
const props = defineProps<{ draft: Draft; view: View; cursor: Point | null }>()
const session = useSession()
const draftPath = computed(() => {
  const v = props.view
  const points = [
    ...props.draft.points.value,
    ...(props.cursor && props.draft.points.value.length > 0 ? [props.cursor] : []),
  ]
  return points.map((p, i) => `${i === 0 ? 'M' : 'L'}${v.x(p).toFixed(1)} ${v.y(p).toFixed(1)}`).join('')
})
const last = computed(() => props.draft.points.value.at(-1))
const reach = computed(() =>
  last.value && props.cursor ? session.format('length', distance(last.value, props.cursor)) : '',
)
</script>

<template>
  <g>
    <path :d="draftPath" class="draft" :class="{ open: draft.open.value }" />
    <circle
      v-for="(p, i) in draft.points.value"
      :key="i"
      class="pin"
      :class="{ first: i === 0 }"
      r="6"
      :cx="view.x(p)"
      :cy="view.y(p)"
    />
    <g v-if="cursor">
      <path
        :d="`M${view.x(cursor) - 8} ${view.y(cursor)}h16M${view.x(cursor)} ${view.y(cursor) - 8}v16`"
        class="cross"
      />
      <text v-if="reach" class="reach" :x="view.x(cursor) + 12" :y="view.y(cursor) - 10">
        {{ reach }}
      </text>
    </g>
  </g>
</template>

<style scoped>
text {
  fill: var(--ink);
  pointer-events: none;
}
.draft {
  fill: color-mix(in srgb, #e2a13b 18%, transparent);
  stroke: var(--warn);
  stroke-width: 2.5;
  stroke-dasharray: 7 4;
}
.draft.open {
  fill: none;
}
.pin {
  fill: var(--paper);
  stroke: var(--warn);
  stroke-width: 2.5;
}
.pin.first {
  fill: #e2a13b;
}
.cross {
  stroke: var(--warn);
  stroke-width: 1.5;
}
.reach {
  text-anchor: start;
  font-weight: 680;
  font-size: 14px;
}
</style>
