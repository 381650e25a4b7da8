<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, useId } from 'vue'
import type { CoatPlan, CoatTimes } from '../api/client'
import { useSession } from '../session/session'

/** One film along time: its states told by pattern, colour and words together. */
const props = defineProps<{ coat: CoatPlan; times: CoatTimes; begin: number; whole: number }>()
const session = useSession()
const frame = ref<HTMLElement | null>(null)
const { width: measured } = useElementSize(frame)
const width = computed(() => Math.max(measured.value, 240))
const id = useId()
const HEIGHT = 34
const LETTER = 6.4

const x = (seconds: number): number => Math.min(1, (props.begin + seconds) / props.whole) * width.value
const after = (key: string): number => props.times.stages.find((s) => s.key === key)?.after ?? 0
const parts = computed(() => {
  const laid = props.times.spread
  const workable = Math.max(laid, after('working'))
  const from = after('recoatFrom')
  const until = after('recoatUntil')
  const opens = from > 0 ? laid + from : workable
  const closes = until > 0 ? Math.max(opens, until) : Infinity
  const end = props.whole - props.begin
  const all = [
    { key: 'laid', words: 'laying', from: 0, to: laid },
    { key: 'workable', words: 'workable', from: laid, to: workable },
    // A sheet without a recoat time says nothing of what follows the working time.
    ...(from === 0
      ? [{ key: 'unknown', words: 'no recoat time on its sheet', from: workable, to: end }]
      : [
          { key: 'setting', words: 'setting', from: workable, to: opens },
          {
            key: 'open',
            words: until > 0 ? 'takes the next coat' : 'takes the next coat; no end on its sheet',
            from: opens,
            to: Math.min(closes, end),
          },
          { key: 'closed', words: 'closed: abrade first', from: closes, to: end },
        ]),
  ]
  return all
    .filter((p) => p.to > p.from && p.from < end)
    .map((p) => ({
      ...p,
      x: x(p.from),
      width: Math.max(1, x(p.to) - x(p.from)),
      fits: x(p.to) - x(p.from) > p.words.length * LETTER + 10,
    }))
})
const foot = computed(() => (after('foot') > 0 ? x(props.times.spread + after('foot')) : 0))
const heard = computed(() =>
  parts.value
    .map((p) => `${p.words} ${session.format('span', p.from)} to ${session.format('span', p.to)}`)
    .join(', '),
)
</script>

<template>
  <div ref="frame">
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="`Coat ${coat.number}: ${heard}`">
      <defs>
        <pattern :id="`${id}-w`" width="7" height="7" patternUnits="userSpaceOnUse">
          <path d="M0 7L7 0" class="hatch" />
        </pattern>
        <pattern :id="`${id}-s`" width="6" height="6" patternUnits="userSpaceOnUse">
          <circle cx="3" cy="3" r="1.3" class="dot" />
        </pattern>
        <pattern :id="`${id}-c`" width="8" height="8" patternUnits="userSpaceOnUse">
          <path d="M0 0L8 8M8 0L0 8" class="hatch" />
        </pattern>
      </defs>
      <g v-for="p in parts" :key="p.key">
        <rect :x="p.x" y="3" :width="p.width" height="28" class="base" :class="p.key" />
        <rect v-if="p.key === 'laid'" :x="p.x" y="3" :width="p.width" height="28" :fill="coat.color" />
        <rect
          v-if="p.key === 'workable'"
          :x="p.x"
          y="3"
          :width="p.width"
          height="28"
          :fill="`url(#${id}-w)`"
        />
        <rect
          v-if="p.key === 'setting'"
          :x="p.x"
          y="3"
          :width="p.width"
          height="28"
          :fill="`url(#${id}-s)`"
        />
        <rect v-if="p.key === 'closed'" :x="p.x" y="3" :width="p.width" height="28" :fill="`url(#${id}-c)`" />
        <text v-if="p.fits && p.key !== 'laid'" :x="p.x + 7" y="21">{{ p.words }}</text>
      </g>
      <g v-if="foot > 0 && foot < width - 2">
        <path :d="`M${foot} 0V34`" class="mark" />
        <title>First use</title>
      </g>
    </svg>
  </div>
</template>

<style scoped>
svg {
  display: block;
}
.base {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1;
}
.base.open {
  fill: color-mix(in srgb, var(--good) 24%, var(--paper));
}
.base.closed {
  fill: color-mix(in srgb, var(--stop) 14%, var(--paper));
}
.base.workable {
  fill: color-mix(in srgb, var(--cure) 16%, var(--paper));
}
.hatch {
  stroke: var(--quiet);
  stroke-width: 1;
  fill: none;
  opacity: 0.55;
}
.dot {
  fill: var(--quiet);
  opacity: 0.7;
}
.mark {
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 4 3;
}
text {
  font-size: 13px;
  font-weight: 640;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3.5px;
}
</style>
