<script setup lang="ts">
import { computed } from 'vue'
import { useDesk } from '../job/useEditor'
import { kindOf } from '../job/blank'
import { useInTurn } from '../../fields/useInTurn'
import FindingList from '../job/FindingList.vue'
import FloorMeasure from './FloorMeasure.vue'
import PhotoStrip from './PhotoStrip.vue'
import PoolMeasure from './PoolMeasure.vue'
import TopMeasure from './TopMeasure.vue'

const desk = useDesk()
const kind = computed(() => kindOf(desk.surface.value))
const standing = useInTurn(4)
const toolbar = 'measure-tools'
</script>

<template>
  <section id="measure" class="panel" aria-labelledby="measure-title">
    <div class="row mb-3">
      <h2 id="measure-title" class="grow">Measure</h2>
      <div :id="toolbar" class="row" />
    </div>
    <FindingList :findings="desk.findings('measure')" />
    <TopMeasure v-if="kind === 'top'" :key="desk.surface.value.id" :toolbar="`#${toolbar}`" />
    <PoolMeasure v-else-if="kind === 'pool'" :key="desk.surface.value.id" :toolbar="`#${toolbar}`" />
    <FloorMeasure v-else :key="desk.surface.value.id" :toolbar="`#${toolbar}`" />
    <div v-if="standing > 3" class="foot">
      <PhotoStrip :job-id="desk.jobId" :surface="desk.surface.value.id" />
      <v-btn size="small" :to="`/jobs/${desk.jobId}/sheets`" data-test="to-sheets">Measuring sheet</v-btn>
    </div>
  </section>
</template>

<style scoped>
.foot {
  display: flex;
  justify-content: space-between;
  align-items: end;
  gap: 16px;
  margin-top: 16px;
  padding-top: 12px;
  border-top: 1px solid var(--faint);
}
</style>
