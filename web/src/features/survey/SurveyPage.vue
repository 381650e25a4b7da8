<script setup lang="ts">
import { computed } from 'vue'
import SurfaceTabs from '../job/SurfaceTabs.vue'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import FindingList from '../job/FindingList.vue'
import ForecastStrip from './ForecastStrip.vue'
import PreparationList from './PreparationList.vue'
import ReadingList from './ReadingList.vue'
import SurveyFacts from './SurveyFacts.vue'
import SurveyRules from './SurveyRules.vue'
import VerdictList from './VerdictList.vue'

const desk = useDesk()
const session = useSession()
const surveyed = computed(() => !!desk.surface.value.survey)
const told = computed(() => desk.surfacePlan.value?.survey)
const refusals = computed(() => desk.findings('survey').filter((f) => f.level === 'refused'))
const fits = {
  fit: 'Fit to coat',
  unknown: 'Not decided yet',
  after: 'Ready after preparation',
  unfit: 'Not fit',
}

function begin(): void {
  desk.editSurface('begin survey', (s) => (s.survey = {}))
}
</script>

<template>
  <SurfaceTabs />
  <section id="survey" class="panel" aria-labelledby="survey-title">
    <div class="row mb-3">
      <h2 id="survey-title" class="grow">Survey and preparation</h2>
      <strong v-if="told" class="answer" :class="told.fit" data-test="fit">{{ fits[told.fit] }}</strong>
    </div>
    <template v-if="!surveyed">
      <p class="quiet mb-3">
        Most coating failures start with the surface. Inspect it and enter readings; the survey says whether
        it is fit to coat and what preparation it needs.
      </p>
      <v-btn v-if="session.mayEdit" data-test="begin-survey" @click="begin">Survey this surface</v-btn>
    </template>
    <template v-else>
      <FindingList :findings="refusals" />
      <div class="halves">
        <div class="facts">
          <SurveyFacts />
          <ReadingList />
        </div>
        <div class="facts">
          <VerdictList v-if="told" :verdicts="told.verdicts" />
          <SurveyRules />
        </div>
      </div>
      <ForecastStrip :hours="told?.hours ?? []" />
      <PreparationList v-if="told?.preparation" :preparation="told.preparation" />
    </template>
  </section>
</template>

<style scoped>
.answer {
  padding: 4px 14px;
  border: 2px solid var(--line);
  border-radius: 3px;
}
.fit {
  border-color: var(--good);
}
.after {
  border: 2px dashed var(--warn);
}
.unfit {
  border: 4px double var(--stop);
}
</style>
