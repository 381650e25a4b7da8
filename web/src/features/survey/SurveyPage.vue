<script setup lang="ts">
import { computed, ref } from 'vue'
import { useInTurn } from '../../fields/useInTurn'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import PageParts from '../../shell/PageParts.vue'
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
const standing = useInTurn(3)
const part = ref('verdicts')
const parts = computed((): Record<string, [string, string]> => {
  const undecided = told.value?.verdicts.filter((v) => v.fit === 'unknown').length ?? 0
  const preparation = told.value?.preparation
  return {
    verdicts: ['Verdicts and readings', undecided ? `${undecided} open` : 'all decided'],
    inspection: ['Inspection', 'what was seen'],
    weather: ['Weather', told.value?.hours?.length ? `${told.value.hours.length} h` : 'no forecast'],
    preparation: ['Preparation', preparation ? session.format('span', preparation.work) : 'none yet'],
  }
})

function begin(): void {
  desk.editSurface('begin survey', (s) => (s.survey = {}))
  part.value = 'inspection'
}
</script>

<template>
  <section id="survey" class="panel" aria-labelledby="survey-title">
    <div class="row mb-3">
      <h2 id="survey-title">Survey and preparation</h2>
      <strong v-if="told" class="answer" :class="told.fit" data-test="fit">{{ fits[told.fit] }}</strong>
      <span class="grow" />
      <PageParts v-if="surveyed" v-model="part" :parts="parts" label="Survey" />
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
      <v-tabs-window v-model="part">
        <v-tabs-window-item value="verdicts">
          <div class="halves">
            <VerdictList v-if="told && standing > 1" :verdicts="told.verdicts" />
            <ReadingList v-if="standing > 2" />
          </div>
        </v-tabs-window-item>
        <v-tabs-window-item value="inspection">
          <SurveyFacts />
          <SurveyRules class="mt-3" />
        </v-tabs-window-item>
        <v-tabs-window-item value="weather">
          <ForecastStrip :hours="told?.hours ?? []" />
        </v-tabs-window-item>
        <v-tabs-window-item value="preparation">
          <PreparationList v-if="told?.preparation" :preparation="told.preparation" />
          <p v-else class="quiet">
            Once the surface is measured and inspected, its preparation is listed here with hours, crew and
            materials.
          </p>
        </v-tabs-window-item>
      </v-tabs-window>
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
