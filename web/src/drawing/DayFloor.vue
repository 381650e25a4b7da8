<script setup lang="ts">
import { computed } from 'vue'
import type { Point, RecordCoat, RecordCoatDay, RecordReach, RecordSurface } from '../api/client'
import SectionFloor, { type Fill, type ShownSection } from './SectionFloor.vue'

/**
 * The floor on its day: each section in its state, or as something else shows it; the one at hand
 * marked, where each pail ended, and what is wrong where.
 */
const props = defineProps<{
  surface: RecordSurface
  plan: RecordCoat
  coat: RecordCoatDay
  chosen?: number
  /** Where the next sections end instead of at their tape. */
  ends?: RecordReach['ends']
  marks?: { at: [number, number]; name: string }[]
  shows?: ReadonlyMap<number, Pick<ShownSection, 'fill' | 'words' | 'strength'>>
}>()
const emit = defineEmits<{ choose: [batch: number]; place: [at: [number, number], batch: number] }>()
const HEIGHT = 300
const MARGIN = 22
const LETTERS = 22
type State = RecordCoatDay['batches'][number]['state']
const shown: Record<State, { fill: Fill; words: string }> = {
  waiting: { fill: 'none', words: '' },
  mixing: { fill: 'mixing', words: 'mixing' },
  mixed: { fill: 'mixing', words: 'mixed' },
  poured: { fill: 'workable', words: 'poured' },
  spread: { fill: 'workable', words: 'spread' },
  rolled: { fill: 'solid', words: 'done' },
  'left-out': { fill: 'none', words: 'left out' },
}
const sections = computed<ShownSection[]>(() =>
  props.plan.batches
    .filter((b) => (b.rings?.length ?? 0) > 0)
    .map((b) => ({
      number: b.number,
      rings: b.rings ?? [],
      label: b.label,
      ...(props.shows?.get(b.number) ??
        shown[props.coat.batches.find((d) => d.number === b.number)?.state ?? 'waiting']),
    })),
)
const spots = computed(() =>
  props.coat.batches.flatMap((b) => (b.spot ? [{ number: b.number, at: b.spot as [number, number] }] : [])),
)
function pick(batch: number, at: [number, number]): void {
  emit('choose', batch)
  emit('place', at, batch)
}
const spot = (at: [number, number]): Point => ({ x: at[0], y: at[1] })
</script>

<template>
  <SectionFloor
    v-if="surface.outline?.[0]?.length"
    v-slot="{ view }"
    :rings="surface.outline ?? []"
    :sections="sections"
    :color="plan.color"
    :name="`The sections of ${surface.name}`"
    :height="HEIGHT"
    :margin="MARGIN"
    :letters="LETTERS"
    :chosen="chosen"
    picks
    data-test="day-floor"
    @pick="pick"
  >
    <g
      v-for="s in spots"
      :key="`spot${s.number}`"
      class="mark"
      data-test="spot"
      :transform="`translate(${view.x(spot(s.at)).toFixed(1)} ${view.y(spot(s.at)).toFixed(1)})`"
    >
      <title>{{ `Pail ${s.number} ended here` }}</title>
      <circle r="9" class="ring" />
      <circle r="3" />
      <text x="14" y="6" class="end">{{ s.number }}</text>
    </g>
    <g v-for="e in ends ?? []" :key="`end${e.batch}`" class="mark" data-test="film-end">
      <title>{{ `Section ${e.batch} ends here` }}</title>
      <path
        class="moved"
        :d="e.line.map((s) => s.map((p, n) => `${n ? 'L' : 'M'}${view.x(p)} ${view.y(p)}`).join('')).join('')"
      />
    </g>
    <g
      v-for="m in marks ?? []"
      :key="m.name"
      class="mark"
      :transform="`translate(${view.x(spot(m.at)).toFixed(1)} ${view.y(spot(m.at)).toFixed(1)})`"
    >
      <path d="M0 -12L12 0L0 12L-12 0Z" />
      <text y="-18">{{ m.name }}</text>
    </g>
  </SectionFloor>
</template>

<style scoped>
.mark {
  pointer-events: none;
}
.mark text {
  text-anchor: middle;
  font-size: 22px;
  font-weight: 700;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.mark .end {
  text-anchor: start;
  font-size: 17px;
}
.mark .ring {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.mark .moved {
  fill: none;
  stroke: var(--warn);
  stroke-width: 4;
  stroke-dasharray: 10 5;
}
.mark path:not(.moved) {
  fill: var(--stop);
  stroke: var(--paper);
  stroke-width: 2;
}
</style>
