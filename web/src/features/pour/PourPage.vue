<script setup lang="ts">
import { computed, ref } from 'vue'
import { useDesk } from '../job/useEditor'
import PageParts from '../../shell/PageParts.vue'
import { useSession } from '../../session/session'
import FindingList from '../job/FindingList.vue'
import QuantityField from '../../fields/QuantityField.vue'
import SectionPlan from '../../drawing/SectionPlan.vue'
import ShapeFigure from '../../drawing/ShapeFigure.vue'
import SpanList from '../measure/SpanList.vue'
import PourHour from './PourHour.vue'
import TapeMarks from './TapeMarks.vue'
import { useJoins } from './useJoins'
import PaceFields from './PaceFields.vue'
import TeamFields from './TeamFields.vue'

const desk = useDesk()
const session = useSession()
const chosen = ref('')
const part = ref('hour')
const parts = { hour: 'The hour', tape: 'Sections and tape', crew: 'Crew and pace' }
const laid = computed(() =>
  (desk.surfacePlan.value?.coats ?? []).filter((c) => (c.sections?.length ?? 0) > 0),
)
/** The coat that is shown: the one chosen, else one that is not made, else that with the most batches. */
const coat = computed(
  () =>
    laid.value.find((c) => c.id === chosen.value) ??
    laid.value.find((c) => c.train && !c.train.makes) ??
    laid.value.toSorted((a, b) => (b.sections?.length ?? 0) - (a.sections?.length ?? 0))[0],
)
const course = computed(() => desk.surfacePlan.value?.course)
const panels = computed(() => (desk.surfacePlan.value?.takeoff?.panels?.length ?? 0) > 0)
const own = computed(() => desk.surface.value.layout.direction !== undefined)

function direct(degrees: number | undefined): void {
  desk.editSurface(
    'direction',
    (s) => (s.layout.direction = degrees === undefined ? undefined : degrees % 360),
  )
}
const joins = useJoins(coat, course)
/** What keeps joints where they are, if anything does. */
const kept = computed(() => {
  if (joins.placed.value)
    return { by: 'placed', words: 'You placed the joints; batch sizes follow the sections.' }
  const locked = joins.pinned.value.size
  if (locked === 0) return undefined
  const words = locked === 1 ? 'A joint is locked' : `${locked} joints are locked`
  return { by: 'pinned', words: `${words}; the other joints are recalculated after every change.` }
})
const straight = computed(() => session.mayEdit && !course.value?.pieces)
const drawings = { dxf: 'DXF', svg: 'SVG', geojson: 'GeoJSON' }
const drawing = (as: string): string =>
  `/api/jobs/${desk.jobId}/coats/${encodeURIComponent(coat.value?.id ?? '')}/sections?as=${as}`
const QUARTER = 90
function unmark(): void {
  desk.editSurface('mixing place', (s) => (s.layout.mixing = undefined))
}
</script>

<template>
  <Teleport defer to="#surface-parts">
    <v-tabs
      :model-value="coat?.id"
      class="choices"
      hide-slider
      aria-label="Coat whose pour is shown"
      @update:model-value="chosen = String($event)"
    >
      <v-tab v-for="c in laid" :key="c.id" :value="c.id">
        <span>
          <svg class="chip" aria-hidden="true"><rect width="14" height="14" :fill="c.color" /></svg>Coat
          {{ c.number }}: {{ c.sections?.length }} {{ c.sections?.length === 1 ? 'batch' : 'batches'
          }}<span v-if="c.train && !c.train.makes" class="late"> timing critical</span>
        </span>
      </v-tab>
    </v-tabs>
  </Teleport>
  <section id="pour" class="panel" aria-labelledby="pour-title">
    <div class="row mb-2">
      <h2 id="pour-title">The pour</h2>
      <PageParts v-if="coat" v-model="part" class="parts" :parts="parts" label="The pour" />
      <v-btn v-if="coat" :to="`/jobs/${desk.jobId}/running/${coat.id}`" data-test="to-running"
        >Pour schedule</v-btn
      >
      <v-btn
        v-if="laid.length > 0"
        color="primary"
        variant="flat"
        :to="`/jobs/${desk.jobId}/cards`"
        data-test="to-cards"
        >Mix cards</v-btn
      >
    </div>
    <p v-if="!coat || !desk.surfacePlan.value" class="quiet">
      The pour is simulated here once the coat has batches.
    </p>
    <v-tabs-window v-else v-model="part">
      <v-tabs-window-item value="hour">
        <PourHour :plan="desk.surfacePlan.value" :coat="coat" />
        <FindingList :findings="desk.findings('pour')" class="mt-3" />
      </v-tabs-window-item>
      <v-tabs-window-item value="crew">
        <TeamFields class="mt-1" />
        <PaceFields class="mt-2" />
      </v-tabs-window-item>
      <v-tabs-window-item value="tape">
        <p v-if="course" class="small mb-2" data-test="drawings">
          As a drawing:
          <a v-for="(words, as) in drawings" :key="as" :href="drawing(as)" class="drawing" download>{{
            words
          }}</a>
        </p>
        <div class="halves">
          <SpanList v-if="panels" :coat="coat" />
          <p v-else-if="!course" class="quiet">
            Without a drawing, sections are given by area only: {{ coat.sections?.length }} of
            {{ session.format('area', coat.sections?.[0]?.area ?? 0) }}. Measure the surface to place them on
            its plan.
          </p>
          <SectionPlan
            v-else
            :surface="desk.surface.value"
            :plan="desk.surfacePlan.value"
            :coat="coat"
            :movable="session.mayEdit"
            :pinned="joins.pinned.value"
            @shift="joins.shift"
          />
          <div>
            <div v-if="course" class="mb-4">
              <p class="small mb-4">{{ course.reason }}</p>
              <p v-if="kept" class="small mb-4" :data-test="kept.by">
                {{ kept.words }}
                <button
                  v-if="session.mayEdit"
                  type="button"
                  class="plain"
                  data-test="free-joins"
                  @click="joins.free"
                >
                  Place joints automatically
                </button>
              </p>
              <p v-else-if="session.mayEdit && (coat.cuts?.length ?? 0) > 0" class="small quiet mb-4">
                Drag a joint, or move it with the arrow keys; sections and batches follow. Lock one to keep it
                while the others are recalculated.
              </p>
              <p class="small mb-4">
                <template v-if="desk.surface.value.layout.mixing"
                  >Batches are carried through the floor from the mixing place that is marked on the plan.
                  <button v-if="session.mayEdit" type="button" class="plain" @click="unmark">
                    Remove the mark
                  </button></template
                >
                <template v-else
                  >Mark the mixing place on the plan (Measure) to include the carrying time.</template
                >
              </p>
              <div v-if="session.mayEdit" class="row">
                <QuantityField
                  kind="angle"
                  label="Direction of work"
                  class="direction"
                  :model-value="course.direction"
                  @update:model-value="direct"
                />
                <v-btn size="small" @click="direct(course.direction + QUARTER)">Turn by 90°</v-btn>
                <v-btn v-if="own" size="small" variant="text" @click="direct(undefined)"
                  >Choose automatically</v-btn
                >
              </div>
            </div>
            <ShapeFigure
              v-if="panels && desk.surfacePlan.value.takeoff"
              :takeoff="desk.surfacePlan.value.takeoff"
              :name="desk.surface.value.name"
            />
            <TapeMarks
              v-if="(coat.cuts?.length ?? 0) > 0"
              :cuts="coat.cuts ?? []"
              :surface="desk.surface.value"
              :pinned="joins.pinned.value"
              :pinnable="straight"
              @pin="joins.pin"
            />
            <p v-else-if="course" class="quiet">One batch covers the whole surface; no tape is needed.</p>
          </div>
        </div>
      </v-tabs-window-item>
    </v-tabs-window>
  </section>
</template>

<style scoped>
.parts {
  flex: 1 1 330px;
}
.late {
  color: var(--stop);
  font-weight: 700;
}
.drawing {
  margin-left: 8px;
}
.direction {
  max-width: 180px;
}
</style>
