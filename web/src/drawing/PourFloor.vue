<script setup lang="ts">
import { computed, useId } from 'vue'
import type { CoatPlan, Passage, Point, PourPlan, Surface, SurfacePlan } from '../api/client'
import { boxAround, fit, path } from './figures'
import StatePatterns from './StatePatterns.vue'

/** The floor at one moment of a pour: each section in its state, everybody where they are. */
const props = defineProps<{
  surface: Surface
  plan: SurfacePlan
  coat: CoatPlan
  pour: PourPlan
  at: number
}>()
const WIDTH = 800
const HEIGHT = 290
const MARGIN = 34
const TIGHT = 28
const id = useId()
const view = computed(() => {
  const box = boxAround(props.surface.floor.outline)
  return fit(box ?? { left: 0, bottom: 0, right: 1, top: 1 }, WIDTH, HEIGHT, MARGIN)
})
const rings = computed<Point[][]>(() => [
  props.surface.floor.outline,
  ...props.surface.floor.holes.map((h) => h.outline),
])
type State = 'bare' | 'mixing' | 'laying' | 'workable' | 'setting'
function stateOf(p: Passage | undefined): State {
  const t = props.at
  if (!p || t < p.meets) return 'bare'
  if (t < p.pour) return 'mixing'
  if (t < p.done) return 'laying'
  return props.pour.working && t > p.laid + props.pour.working ? 'setting' : 'workable'
}
const words: Record<State, string> = {
  bare: '',
  mixing: 'mixing',
  laying: 'laying',
  workable: 'workable',
  setting: 'setting',
}
const sections = computed(() =>
  (props.coat.sections ?? []).map((s) => {
    const passage = props.pour.run.passages?.[s.number - 1]
    const around = boxAround(s.rings.flat()) ?? { left: 0, right: 0, bottom: 0, top: 0 }
    const wide = (around.right - around.left) * view.value.scale
    const high = (around.top - around.bottom) * view.value.scale
    // Numbers of narrow sections stand staggered, so that none covers its neighbour.
    const aside = Math.min(wide, high) < TIGHT ? ((s.number % 3) - 1) * TIGHT : 0
    return {
      ...s,
      d: path(s.rings, view.value),
      state: stateOf(passage),
      x: view.value.x(s.label) + (wide < high ? 0 : aside),
      y: view.value.y(s.label) + (wide < high ? aside : 0),
    }
  }),
)
const mixing = computed(
  () =>
    props.surface.layout.mixing ?? props.plan.exit?.at ?? props.surface.floor.outline[0] ?? { x: 0, y: 0 },
)
/** Where everybody is. */
const people = computed(() =>
  props.pour.crew.map((person, i) => {
    const stint = props.pour.run.parts?.find((s) => s.person === i && s.from <= props.at && props.at < s.to)
    const section = props.coat.sections?.find((s) => s.number === stint?.batch)
    const from = { x: view.value.x(mixing.value), y: view.value.y(mixing.value) }
    const to = section ? { x: view.value.x(section.label), y: view.value.y(section.label) } : from
    let share = 0
    if (stint?.act === 'carry') share = (props.at - stint.from) / (stint.to - stint.from)
    else if (stint?.act === 'fetch') share = 1 - (props.at - stint.from) / (stint.to - stint.from)
    else if (stint && stint.act !== 'open' && stint.act !== 'mix') share = 1
    const aside = share > 0 ? (i - (props.pour.crew.length - 1) / 2) * 26 : i * 26
    return {
      name: person.name,
      letter: person.name.slice(0, 1) + (person.name.match(/\d+$/)?.[0] ?? ''),
      busy: !!stint,
      pail: stint?.act === 'carry' || stint?.act === 'mix' || stint?.act === 'pour' ? stint.batch : 0,
      x: Math.min(WIDTH - 16, Math.max(16, from.x + (to.x - from.x) * share + aside)),
      y: Math.min(HEIGHT - 16, Math.max(16, from.y + (to.y - from.y) * share + (share > 0 ? 24 : 30))),
    }
  }),
)
</script>

<template>
  <svg
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    class="plan floor"
    role="img"
    aria-label="The floor at this moment"
    data-test="pour-floor"
  >
    <StatePatterns :id="id" :color="coat.color" />
    <path
      v-for="s in sections"
      :key="s.number"
      :d="s.d"
      fill-rule="evenodd"
      class="section"
      :class="s.state"
      :fill="
        s.state === 'laying' ? coat.color : s.state === 'bare' ? 'transparent' : `url(#${id}-${s.state})`
      "
    />
    <path :d="path(rings, view)" class="walls" fill-rule="evenodd" />
    <g
      v-for="s in sections"
      :key="`n${s.number}`"
      class="label"
      :transform="`translate(${s.x.toFixed(1)} ${s.y.toFixed(1)})`"
    >
      <circle r="12" />
      <text y="5" class="number">{{ s.number }}</text>
      <text v-if="words[s.state]" y="-17" class="state">{{ words[s.state] }}</text>
    </g>
    <g v-if="plan.exit" class="exit">
      <circle :cx="view.x(plan.exit.at)" :cy="view.y(plan.exit.at)" r="11" />
    </g>
    <g
      v-for="(p, i) in people"
      :key="i"
      :transform="`translate(${p.x.toFixed(1)} ${p.y.toFixed(1)})`"
      class="person"
      :class="{ idle: !p.busy }"
    >
      <title>{{ p.name }}</title>
      <rect x="-12" y="-11" width="24" height="22" rx="3" />
      <text y="5">{{ p.letter }}</text>
      <g v-if="p.pail > 0" transform="translate(19 0)" class="pail">
        <path d="M-8 -8H8L6 8H-6Z" :fill="coat.color" />
        <text y="5">{{ p.pail }}</text>
      </g>
    </g>
  </svg>
</template>

<style scoped>
.floor {
  width: 100%;
  display: block;
  background: var(--paper);
  border: 1px solid var(--line);
}
.section {
  stroke: var(--ink);
  stroke-width: 1;
  stroke-dasharray: 8 5;
}
.walls {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
}
text {
  text-anchor: middle;
  font-size: 13px;
  font-weight: 700;
  fill: #12201d;
}
.label circle {
  fill: #fbfcfb;
  stroke: #12201d;
}
.state {
  fill: var(--ink);
  font-weight: 640;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.person rect {
  fill: #12201d;
  stroke: #fbfcfb;
  stroke-width: 1.5;
}
.person text {
  fill: #fbfcfb;
}
.person.idle rect {
  fill: #fbfcfb;
  stroke: #12201d;
  stroke-dasharray: 3 2;
}
.person.idle text {
  fill: #12201d;
}
.pail path {
  stroke: #12201d;
  stroke-width: 1.5;
}
.pail text {
  fill: #12201d;
  paint-order: stroke;
  stroke: #fbfcfb;
  stroke-width: 3px;
}
</style>
