<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Point } from '../../api/client'
import type { Draft } from '../../drawing/useDraft'
import { useWalk } from './useWalk'
import { distance, tidy } from '../../drawing/figures'
import { useSession } from '../../session/session'
import QuantityField from '../../fields/QuantityField.vue'
import WalkField from './WalkField.vue'

/** The corner that a column or a zone is measured from. */
const props = defineProps<{ draft: Draft; origin?: Point; words?: string }>()
const emit = defineEmits<{ close: [] }>()
const session = useSession()
const ways = [
  { label: 'up', sign: '↑', degrees: 90 },
  { label: 'right', sign: '→', degrees: 0 },
  { label: 'down', sign: '↓', degrees: 270 },
  { label: 'left', sign: '←', degrees: 180 },
]
const walk = useWalk(props.draft)
const degrees = walk.heading
const angled = ref(false)
const ANGLED = 'angled'
function run(way: unknown): void {
  angled.value = way === ANGLED
  if (typeof way === 'number') degrees.value = way
}
const square = computed(() => ways.some((w) => w.degrees === degrees.value))

const titles = {
  outline: 'Walls, as you walk them',
  hole: 'Column or pit, as you walk it',
  zone: 'Zone, as you walk it',
  line: 'Crack or joint, from end to end',
}
const across = ref<number>()
const up = ref<number>()
/** A column typed from the tape begins at a corner measured from corner 1. */
function start(): void {
  const corner = props.origin ?? { x: 0, y: 0 }
  if (across.value === undefined || up.value === undefined) return
  props.draft.add({ x: tidy(corner.x + across.value), y: tidy(corner.y + up.value) })
  across.value = up.value = undefined
}

const walls = computed(() =>
  props.draft.points.value.slice(1).map((p, i) => distance(props.draft.points.value[i] ?? p, p)),
)
const gap = computed(() => {
  const first = props.draft.points.value[0]
  const last = props.draft.points.value.at(-1)
  return first && last && props.draft.closable.value && !props.draft.open.value ? distance(first, last) : 0
})
</script>

<template>
  <div class="entry" data-test="wall-entry">
    <h3>{{ words ?? titles[draft.kind.value] }}</h3>
    <p class="quiet small">
      Choose which way the next wall runs on the plan (arrow keys, or r, u, l, d outside the field), type its
      length, press Enter. Clicks on the drawing add corners just as well.
    </p>
    <div v-if="origin && draft.kind.value !== 'outline' && draft.points.value.length === 0" class="start">
      <QuantityField
        v-model="across"
        kind="length"
        label="First corner: right of corner 1"
        @update:model-value="start"
      />
      <QuantityField
        v-model="up"
        kind="length"
        label="First corner: up from corner 1"
        @update:model-value="start"
      />
    </div>
    <div>
      <span id="next-runs" class="small quiet">Next wall runs</span>
      <v-btn-toggle
        :model-value="angled || !square ? ANGLED : degrees"
        mandatory
        class="ways"
        aria-labelledby="next-runs"
        @update:model-value="run"
      >
        <v-btn
          v-for="w in ways"
          :key="w.label"
          :value="w.degrees"
          :aria-label="w.label"
          :aria-pressed="!angled && degrees === w.degrees"
          >{{ w.sign }}</v-btn
        >
        <v-btn :value="ANGLED" aria-label="at an angle" :aria-pressed="angled || !square">∠</v-btn>
      </v-btn-toggle>
    </div>
    <QuantityField
      v-if="angled || !square"
      v-model="degrees"
      kind="angle"
      label="Direction, counter-clockwise from right"
    />
    <WalkField :walk="walk" @close="emit('close')" />
    <!-- Above all that comes and goes, so that they stay under the hand. -->
    <div class="row">
      <v-btn v-if="!draft.open.value" :disabled="!draft.closable.value" @click="walk.check()"
        >Back at the start</v-btn
      >
      <v-btn color="primary" variant="flat" :disabled="!draft.closable.value" @click="emit('close')">{{
        draft.open.value ? 'End the line' : 'Close the outline'
      }}</v-btn>
      <v-btn variant="text" :disabled="draft.points.value.length === 0" @click="draft.back()"
        >Undo the last wall</v-btn
      >
      <v-btn variant="text" @click="draft.cancel()">Cancel</v-btn>
    </div>
    <ol v-if="walls.length > 0" class="walls small">
      <li v-for="(w, i) in walls" :key="i">{{ session.format('length', w) }}</li>
    </ol>
    <dl v-if="draft.measured.value" class="so-far" data-test="so-far">
      <template v-if="draft.measured.value.fault">
        <dt>Closed now</dt>
        <dd class="small">{{ draft.measured.value.fault }}</dd>
      </template>
      <template v-else>
        <dt>Closed now</dt>
        <dd>
          <span class="figure">{{ session.format('area', draft.measured.value.area) }}</span>,
          {{ session.format('length', draft.measured.value.perimeter) }} around
        </dd>
      </template>
    </dl>
    <p v-if="gap > 0" class="small">
      {{ gap < 0.002 ? 'The walls close.' : `Closing wall: ${session.format('length', gap)}` }}
    </p>
    <div v-if="walk.closure.value" class="closure" role="status" data-test="closure">
      <p>
        <strong>{{ walk.closure.value.text }}</strong>
      </p>
      <ul v-if="walk.closure.value.mends.length > 0">
        <li v-for="m in walk.closure.value.mends" :key="m.text" :class="{ likely: m.likely }">
          <span>{{ m.text }}</span>
          <v-btn size="small" @click="draft.replace(m.points, m.text)">Use this</v-btn>
        </li>
      </ul>
      <p v-else class="small">
        No single misreading explains the gap; more than one may be wrong. Measure again from corner 1.
      </p>
    </div>
  </div>
</template>

<style scoped>
.entry {
  display: grid;
  gap: 10px;
}
.ways {
  display: flex;
  gap: 6px;
  height: auto;
}
.ways .v-btn {
  min-width: 46px;
  height: 40px;
  padding: 0;
  font-size: 1.2rem;
}
.start {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  align-items: start;
}
.so-far {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.closure {
  border: 1px solid var(--line);
  border-left: 6px solid var(--warn);
  padding: 10px 12px;
}
.closure ul {
  list-style: none;
  padding: 0;
  margin-top: 6px;
}
.closure li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 4px 0;
}
.closure .likely {
  font-weight: 640;
}
.walls {
  columns: 3;
  padding-left: 22px;
}
</style>
