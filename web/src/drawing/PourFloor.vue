<script setup lang="ts">
import { computed } from 'vue'
import type { CoatPlan, Passage, Point, PourPlan, Surface, SurfacePlan } from '../api/client'
import SectionFloor, { type Fill, type ShownSection } from './SectionFloor.vue'
import type { View } from './figures'

/** The floor at one moment of a pour: each section in its state, everybody where they are. */
const props = defineProps<{
  surface: Surface
  plan: SurfacePlan
  coat: CoatPlan
  pour: PourPlan
  at: number
}>()
const HEIGHT = 212
const MARGIN = 20
const LETTERS = 13
const rings = computed<Point[][]>(() => [
  props.surface.floor.outline,
  ...props.surface.floor.holes.map((h) => h.outline),
])
function stateOf(p: Passage | undefined): { fill: Fill; words: string } {
  const t = props.at
  if (!p || t < p.meets) return { fill: 'none', words: '' }
  if (t < p.pour) return { fill: 'mixing', words: 'mixing' }
  if (t < p.done) return { fill: 'solid', words: 'laying' }
  const set = props.pour.working && t > p.laid + props.pour.working
  return set ? { fill: 'setting', words: 'setting' } : { fill: 'workable', words: 'workable' }
}
const sections = computed<ShownSection[]>(() =>
  (props.coat.sections ?? []).map((s) => ({
    number: s.number,
    rings: s.rings,
    label: s.label,
    ...stateOf(props.pour.run.passages?.[s.number - 1]),
  })),
)
const mixing = computed(
  () =>
    props.surface.layout.mixing ?? props.plan.exit?.at ?? props.surface.floor.outline[0] ?? { x: 0, y: 0 },
)
/** A short mark of somebody: the first letter and the number of a part, else the first letters of a name. */
function initials(name: string): string {
  const words = name.trim().split(/\s+/)
  return words
    .map((w) => (/^\d+$/.test(w) ? w : w.slice(0, 1)))
    .slice(0, 2)
    .join('')
}
/** Where everybody is in a picture of the floor. */
const peopleIn = (view: View, width: number) =>
  props.pour.crew.map((person, i) => {
    const stint = props.pour.run.parts?.find((s) => s.person === i && s.from <= props.at && props.at < s.to)
    const section = props.coat.sections?.find((s) => s.number === stint?.batch)
    const from = { x: view.x(mixing.value), y: view.y(mixing.value) }
    const to = section ? { x: view.x(section.label), y: view.y(section.label) } : from
    let share = 0
    if (stint?.act === 'carry') share = (props.at - stint.from) / (stint.to - stint.from)
    else if (stint?.act === 'fetch') share = 1 - (props.at - stint.from) / (stint.to - stint.from)
    else if (stint && stint.act !== 'open' && stint.act !== 'mix') share = 1
    const aside = share > 0 ? (i - (props.pour.crew.length - 1) / 2) * 26 : i * 26
    return {
      name: person.name,
      letter: initials(person.name),
      busy: !!stint,
      pail: stint?.act === 'carry' || stint?.act === 'mix' || stint?.act === 'pour' ? stint.batch : 0,
      x: Math.min(width - 16, Math.max(16, from.x + (to.x - from.x) * share + aside)),
      y: Math.min(HEIGHT - 16, Math.max(16, from.y + (to.y - from.y) * share + (share > 0 ? 24 : 30))),
    }
  })
</script>

<template>
  <SectionFloor
    v-slot="{ view, width }"
    :rings="rings"
    :sections="sections"
    :color="coat.color"
    name="The floor at this moment"
    :height="HEIGHT"
    :margin="MARGIN"
    :letters="LETTERS"
    data-test="pour-floor"
  >
    <g v-if="plan.exit" class="exit">
      <circle :cx="view.x(plan.exit.at)" :cy="view.y(plan.exit.at)" r="11" />
    </g>
    <g
      v-for="(p, i) in peopleIn(view, width)"
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
  </SectionFloor>
</template>

<style scoped>
text {
  text-anchor: middle;
  font-size: 13px;
  font-weight: 700;
  fill: #12201d;
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
