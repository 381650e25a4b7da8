<script setup lang="ts">
import { computed, ref, toRef } from 'vue'
import { useRoute } from 'vue-router'
import type { Plan, PlanFile } from '../../api/client'
import WorkingDialog from '../../fields/WorkingDialog.vue'
import DrawnPage from '../../shell/DrawnPage.vue'
import JobDetails from './JobDetails.vue'
import { stepPath, steps } from './steps'
import SurfaceTabs from './SurfaceTabs.vue'
import { provideDesk } from './useEditor'
import type { JobEditor } from './useJob'

/** What the pages of a job share; one of them is on screen. */
const props = defineProps<{ editor: JobEditor; file: PlanFile; plan: Plan; jobId: string }>()
const desk = provideDesk(props.jobId, props.editor, toRef(props, 'file'), toRef(props, 'plan'))
const route = useRoute()
const step = computed(() => steps.find((s) => route.path === stepPath(props.jobId, s.id)))
const details = ref(false)
defineExpose({
  openDetails: (): void => void (details.value = true),
  turnTo: (surface: number): void => void (desk.index.value = surface),
})
</script>

<template>
  <div class="page desk">
    <SurfaceTabs v-if="step?.bySurface" :manage="step.id === 'measure'" />
    <router-view v-slot="{ Component }">
      <DrawnPage v-if="Component" :key="route.path" step :title="step?.name"
        ><component :is="Component"
      /></DrawnPage>
    </router-view>
    <WorkingDialog />
    <JobDetails v-model="details" />
  </div>
</template>

<style scoped>
.desk {
  padding-top: 14px;
}
/* The drawing stays in view beside the fields that move it. */
.desk :deep(.halves) {
  display: grid;
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
  gap: 24px;
  align-items: start;
}
.desk :deep(.halves > :first-child) {
  position: sticky;
  top: calc(var(--top, 150px) + 12px);
}
@media (max-width: 900px) {
  .desk :deep(.halves) {
    grid-template-columns: minmax(0, 1fr);
  }
  .desk :deep(.halves > :first-child) {
    position: static;
  }
}
</style>
