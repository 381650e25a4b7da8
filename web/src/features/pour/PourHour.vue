<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { CoatPlan, SurfacePlan } from '../../api/client'
import PickField from '../../fields/PickField.vue'
import PourFloor from '../../drawing/PourFloor.vue'
import PourRibbons from '../../drawing/PourRibbons.vue'
import { useDesk } from '../job/useEditor'
import BestHours from './BestHours.vue'
import PourAnswer from './PourAnswer.vue'
import RunningList from './RunningList.vue'
import WhatIf from './WhatIf.vue'
import { useHour } from './useHour'
import { usePour, type Attempt } from './usePour'

/** Simulation of a pour: floor and time together, what comes of it, and what if. */
const props = defineProps<{ plan: SurfacePlan; coat: CoatPlan }>()
const desk = useDesk()
const attempt = ref<Attempt>({ patch: [] })
const id = computed(() => props.coat.id)
watch(id, () => (attempt.value = { patch: [] }))
const { now, tried, ways, starts, trouble } = usePour(id, attempt)
const shown = computed(() => (tried.value ?? now.value)?.pour)
const zone = computed(() => desk.plan.value.zone)
const hour = useHour(shown, zone)
const { at, begin, end, playing, speed, looped, told } = hour
const speeds = { 1: '1 ×', 10: '10 ×', 30: '30 ×', 60: '60 ×', 120: '120 ×' }
const loops = computed(() =>
  Object.fromEntries((shown.value?.batches ?? []).map((_, i) => [String(i + 1), `batch ${i + 1}`])),
)
const own = computed(() => desk.surface.value.coats[props.coat.number - 1])
const path = computed(
  () =>
    `/job/surfaces/${desk.file.value.job.surfaces.indexOf(desk.surface.value)}/coats/${props.coat.number - 1}`,
)
const drawn = computed(() => !!props.plan.course)
const RIGHT = 30
function key(event: KeyboardEvent): void {
  if (event.key === 'ArrowRight') at.value = Math.min(end.value, at.value + RIGHT)
  else if (event.key === 'ArrowLeft') at.value = Math.max(begin.value, at.value - RIGHT)
  else if (event.key === ' ') hour.play()
  else return
  event.preventDefault()
}
</script>

<template>
  <p v-if="trouble" role="alert">{{ trouble }}</p>
  <div v-if="shown" class="hour">
    <div class="picture">
      <PourFloor
        v-if="drawn"
        :surface="desk.surface.value"
        :plan="plan"
        :coat="coat"
        :pour="shown"
        :at="at"
      />
      <div class="row controls" tabindex="0" role="group" aria-label="Simulation" @keydown.self="key">
        <v-btn size="small" color="primary" variant="flat" data-test="play" @click="hour.play()">{{
          playing ? 'Pause' : 'Play'
        }}</v-btn>
        <v-btn size="small" aria-label="To the critical point before" @click="hour.toTight(-1)"
          >‹ critical point</v-btn
        >
        <v-btn
          size="small"
          aria-label="To the next critical point"
          data-test="next-tight"
          @click="hour.toTight(1)"
          >critical point ›</v-btn
        >
        <strong class="figure" data-test="hour-at">{{ told(at) }}</strong>
        <input
          v-model.number="at"
          type="range"
          :min="begin"
          :max="end"
          step="1"
          class="grow"
          aria-label="Time in the pour"
          :aria-valuetext="told(at)"
          data-test="scrub"
        />
        <PickField
          label="Speed"
          bare
          open
          :model-value="String(speed)"
          :options="speeds"
          @update:model-value="speed = Number($event)"
        />
        <PickField
          v-if="Object.keys(loops).length > 1"
          label="Scenario shown"
          bare
          open
          :model-value="String(looped)"
          :options="{ 0: 'the whole pour', ...loops }"
          @update:model-value="looped = Number($event)"
        />
      </div>
      <PourRibbons
        v-model:at="at"
        class="lanes"
        :pour="shown"
        :ghost="tried ? now?.pour : undefined"
        :color="coat.color"
        :told="told"
      />
      <RunningList class="list" :pour="shown" :told="told" :at="at" />
    </div>
    <div class="beside">
      <PourAnswer v-if="now" :tried="now" :told="told" title="As planned" />
      <PourAnswer v-if="tried" :tried="tried" :told="told" title="What if" />
      <WhatIf
        v-if="own"
        :key="coat.id"
        :coat="own"
        :path="path"
        :ways="ways"
        :sure="now?.odds?.makes.of === 1"
        :starts="starts"
        :pace="tried?.pour.pace"
        :direction="plan.course?.direction"
        @tried="attempt = $event"
      />
    </div>
    <BestHours class="across" :coat="coat.id" />
  </div>
  <p v-else-if="!trouble" class="quiet">Simulating the pour …</p>
</template>

<style scoped>
.hour {
  display: grid;
  grid-template-columns: minmax(0, 1.9fr) minmax(0, 1fr);
  gap: 16px;
  align-items: start;
}
.picture {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  min-width: 0;
}
.beside {
  display: grid;
  gap: 10px;
}
.across {
  grid-column: 1 / -1;
}
.controls {
  gap: 8px;
}
.controls input[type='range'] {
  min-width: 80px;
  accent-color: var(--cure);
}
.controls .figure {
  min-width: 76px;
}
.list {
  display: none;
}
@media (max-width: 900px) {
  .hour {
    grid-template-columns: minmax(0, 1fr);
  }
  .lanes {
    display: none;
  }
  .list {
    display: block;
  }
}
</style>
