<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, useId } from 'vue'
import type { Passage, PourPlan, Stint } from '../api/client'
import StatePatterns from './StatePatterns.vue'
import { acts } from './acts'

/** A pour along time: what everybody does, and each batch on its way, with the tight moments. */
const props = defineProps<{
  pour: PourPlan
  ghost?: PourPlan
  color: string
  at?: number
  told: (s: number) => string
}>()
const emit = defineEmits<{ 'update:at': [at: number] }>()
const frame = ref<HTMLElement | null>(null)
const { width: measured } = useElementSize(frame)
const width = computed(() => Math.max(measured.value, 300))
const id = useId()
const NAMES = 92
const ROW = 26
const BAR = 20
const TOP = 36
const EDGE = 40
const LANES = 3
const MINUTE = 60

const begin = computed(() => Math.min(props.pour.run.begins, props.ghost?.run.begins ?? 0))
const end = computed(() => Math.max(props.pour.run.ends, props.ghost?.run.ends ?? 0, MINUTE))
const scale = computed(() => (width.value - NAMES - 6) / (end.value - begin.value))
const x = (s: number): number => NAMES + (s - begin.value) * scale.value
const height = computed(() => TOP + (props.pour.crew.length + LANES) * ROW + 8)
const looks: Record<Stint['act'], string> = {
  fetch: 'walk',
  open: 'mix',
  mix: 'mix',
  carry: 'walk',
  pour: 'lay',
  'cut-in': 'lay',
  spread: 'lay',
  roll: 'lay',
  'cross-roll': 'lay',
  broadcast: 'lay',
}
/** What each does, stints of one look at one batch that follow each other drawn as one. */
const stints = computed(() => {
  const all: { person: number; batch: number; look: string; from: number; to: number; acts: string[] }[] = []
  const last = new Map<number, number>()
  for (const s of props.pour.run.parts ?? []) {
    const at = last.get(s.person)
    const before = at === undefined ? undefined : all[at]
    const look = looks[s.act]
    if (before && before.batch === s.batch && before.look === look && s.from - before.to < 1) {
      before.to = s.to
      if (!before.acts.includes(acts[s.act])) before.acts.push(acts[s.act])
      continue
    }
    last.set(s.person, all.length)
    all.push({ person: s.person, batch: s.batch, look, from: s.from, to: s.to, acts: [acts[s.act]] })
  }
  return all
})
const lane = (p: Passage): number => TOP + (props.pour.crew.length + ((p.batch - 1) % LANES)) * ROW
const ticks = computed(() => {
  const steps = [1, 2, 5, 10, 15, 30, 60, 120, 240].map((m) => m * MINUTE)
  const most = Math.max(2, Math.floor((width.value - NAMES) / 84))
  const step = steps.find((s) => (end.value - begin.value) / s <= most) ?? 480 * MINUTE
  const first = Math.ceil(begin.value / step) * step
  return Array.from({ length: Math.floor((end.value - first) / step) + 1 }, (_, i) => first + i * step)
})
function pick(event: PointerEvent): void {
  const box = (event.currentTarget as SVGElement).getBoundingClientRect()
  const s = begin.value + (event.clientX - box.left - NAMES) / scale.value
  emit('update:at', Math.min(end.value, Math.max(begin.value, s)))
}
function drag(event: PointerEvent): void {
  if (event.buttons > 0) pick(event)
}
</script>

<template>
  <div ref="frame">
    <svg
      :width="width"
      :height="height"
      :viewBox="`0 0 ${width} ${height}`"
      class="ribbons"
      role="img"
      aria-label="Who does what when"
      data-test="pour-ribbons"
      @pointerdown="pick"
      @pointermove="drag"
    >
      <StatePatterns :id="id" :color="color" />
      <defs>
        <pattern :id="`${id}-wait`" width="6" height="6" patternUnits="userSpaceOnUse">
          <circle cx="3" cy="3" r="1.3" class="dot" />
        </pattern>
      </defs>
      <g v-for="t in ticks" :key="t">
        <path :d="`M${x(t)} ${TOP - 6}V${height}`" class="tick" />
        <text :x="Math.min(x(t), width - EDGE)" y="12" class="time">{{ told(t) }}</text>
      </g>
      <g v-for="(p, i) in pour.crew" :key="i">
        <text x="0" :y="TOP + i * ROW + 15" class="name">{{ p.name }}</text>
        <path :d="`M${NAMES} ${TOP + (i + 1) * ROW - 3}H${width}`" class="row" />
      </g>
      <text x="0" :y="TOP + pour.crew.length * ROW + 15" class="name">Pails</text>
      <g v-for="(s, i) in stints" :key="i">
        <title>{{ pour.crew[s.person]?.name }}: {{ s.acts.join(', ') }}, batch {{ s.batch }}</title>
        <rect
          :x="x(s.from)"
          :y="TOP + s.person * ROW"
          :width="Math.max(1, x(s.to) - x(s.from))"
          :height="BAR"
          class="stint"
          :class="s.look"
          :fill="s.look === 'lay' ? color : s.look === 'mix' ? `url(#${id}-mix)` : undefined"
        />
        <text
          v-if="x(s.to) - x(s.from) > 16 && s.look !== 'walk'"
          :x="(x(s.from) + x(s.to)) / 2"
          :y="TOP + s.person * ROW + 15"
          class="batch"
        >
          {{ s.batch }}
        </text>
      </g>
      <g v-for="p in pour.run.passages ?? []" :key="`b${p.batch}`">
        <rect
          :x="x(p.meets)"
          :y="lane(p)"
          :width="x(p.ready) - x(p.meets)"
          :height="BAR"
          class="stint mix"
          :fill="`url(#${id}-mix)`"
        />
        <rect
          :x="x(p.ready)"
          :y="lane(p)"
          :width="Math.max(0, x(p.pour) - x(p.ready))"
          :height="BAR"
          class="stint"
          :fill="`url(#${id}-wait)`"
        />
        <rect
          :x="x(p.pour)"
          :y="lane(p)"
          :width="Math.max(1, x(p.done) - x(p.pour))"
          :height="BAR"
          class="stint"
          :fill="color"
        />
        <text :x="(x(p.pour) + x(p.done)) / 2" :y="lane(p) + 15" class="batch">{{ p.batch }}</text>
      </g>
      <g v-for="p in ghost?.run.passages ?? []" :key="`g${p.batch}`">
        <path :d="`M${x(p.pour)} ${lane(p) + BAR + 2}H${x(p.done)}`" class="ghost" />
      </g>
      <g v-for="m in pour.run.moments" :key="m.limit" class="moment" :class="{ late: m.slack < 0 }">
        <path :d="`M${x(m.at)} ${TOP - 8}l-6 -9h12z`" />
      </g>
      <path v-if="at !== undefined" :d="`M${x(at)} 0V${height}`" class="now" />
    </svg>
  </div>
</template>

<style scoped>
.ribbons {
  display: block;
  touch-action: pan-y;
  cursor: col-resize;
}
@media print {
  .ribbons {
    width: 100%;
    height: auto;
  }
}
.tick {
  stroke: var(--line);
}
.row {
  stroke: var(--faint);
}
text {
  font-size: 13px;
  fill: var(--ink);
}
.time {
  text-anchor: middle;
  fill: var(--quiet);
}
.name {
  font-weight: 640;
}
.batch {
  text-anchor: middle;
  font-weight: 740;
  fill: #12201d;
  paint-order: stroke;
  stroke: #fbfcfb;
  stroke-width: 3px;
}
.stint {
  stroke: var(--ink);
  stroke-width: 1;
}
.walk {
  fill: var(--paper);
  stroke-dasharray: 2 2;
}
.dot {
  fill: var(--ink);
  opacity: 0.6;
}
.ghost {
  stroke: var(--ink);
  stroke-width: 3;
  opacity: 0.4;
}
.moment path {
  fill: var(--warn);
}
.moment.late path {
  fill: var(--stop);
}
.now {
  stroke: var(--cure);
  stroke-width: 3;
}
</style>
