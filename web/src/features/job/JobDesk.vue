<script setup lang="ts">
import { ref, toRef } from 'vue'
import type { Plan, PlanFile } from '../../api/client'
import { provideDesk } from './useEditor'
import type { JobEditor } from './useJob'
import BatchesPanel from '../batches/BatchesPanel.vue'
import JobDetails from './JobDetails.vue'
import BuildUpPanel from '../buildup/BuildUpPanel.vue'
import KitsPanel from '../kits/KitsPanel.vue'
import MeasurePanel from '../measure/MeasurePanel.vue'
import SectionsPanel from '../pour/SectionsPanel.vue'
import SurveyPanel from '../survey/SurveyPanel.vue'
import SurfaceTabs from './SurfaceTabs.vue'
import WorkingDialog from '../../fields/WorkingDialog.vue'

const props = defineProps<{ editor: JobEditor; file: PlanFile; plan: Plan; jobId: string }>()
provideDesk(props.editor, toRef(props, 'file'), toRef(props, 'plan'))
const tabs = ref<InstanceType<typeof SurfaceTabs> | null>(null)
const details = ref(false)
defineExpose({
  addSurface: (): void => tabs.value?.add(),
  openDetails: (): void => void (details.value = true),
})
</script>

<template>
  <div class="page desk">
    <SurfaceTabs ref="tabs" :job-id="jobId" />
    <MeasurePanel :job-id="jobId" />
    <SurveyPanel />
    <BuildUpPanel />
    <KitsPanel :job-id="jobId" />
    <BatchesPanel />
    <SectionsPanel :job-id="jobId" />
    <WorkingDialog />
    <JobDetails v-model="details" />
  </div>
</template>

<style scoped>
.desk {
  padding-top: 16px;
}
.desk :deep(.panel) {
  padding: 18px 20px 22px;
  margin-bottom: 18px;
}
.desk :deep(.halves) {
  display: grid;
  grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
  gap: 24px;
}
.desk :deep(#build-up .halves) {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.6fr);
}
@media (max-width: 900px) {
  .desk :deep(.halves),
  .desk :deep(#build-up .halves) {
    grid-template-columns: 1fr;
  }
}
</style>
