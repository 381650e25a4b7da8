<script setup lang="ts">
import { computed } from 'vue'
import OutlineFigure from '../../drawing/OutlineFigure.vue'
import PieceTable from './PieceTable.vue'
import ShapeFigure from '../../drawing/ShapeFigure.vue'
import WorkingTable from '../../fields/WorkingTable.vue'
import { usePlannedJob } from '../job/usePlannedJob'
import { useSession } from '../../session/session'

const props = defineProps<{ id: string }>()
const session = useSession()
const { job, trouble } = usePlannedJob(props.id)
const sheets = computed(() =>
  (job.value?.plan.surfaces ?? []).flatMap((plan) => {
    const surface = job.value?.file.job.surfaces.find((s) => s.id === plan.id)
    return surface && plan.takeoff ? [{ surface, plan, takeoff: plan.takeoff }] : []
  }),
)
const when = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium' })
function print(): void {
  window.print()
}
</script>

<template>
  <div class="page">
    <div class="row mb-4 no-print">
      <v-btn variant="text" :to="`/jobs/${id}`">‹ Back to the job</v-btn>
      <h1 class="grow">Measuring sheets</h1>
      <v-btn color="primary" variant="flat" @click="print">Print</v-btn>
    </div>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-else-if="!job" class="quiet">Reading the measures …</p>
    <p v-else-if="sheets.length === 0" class="quiet">Nothing is measured yet. Outline a surface first.</p>
    <article v-for="s in sheets" :key="s.surface.id" class="sheet one" data-test="measuring-sheet">
      <header class="row">
        <h2 class="grow">{{ s.surface.name }}</h2>
        <span class="quiet"
          >{{ job?.file.job.name }} · {{ job?.file.job.client }} ·
          {{ when.format(new Date(job?.changedAt ?? 0)) }}</span
        >
      </header>
      <div class="halves">
        <OutlineFigure v-if="s.surface.floor.outline.length > 0" :surface="s.surface" :plan="s.plan" />
        <ShapeFigure v-else-if="s.takeoff.figures?.length" :takeoff="s.takeoff" :name="s.surface.name" />
        <p v-else class="quiet">No drawing: the area is as given.</p>
        <div class="workings">
          <PieceTable
            v-if="s.takeoff.panels"
            :workings="s.takeoff.partWorkings ?? []"
            :total="s.takeoff.working.result"
          />
          <WorkingTable v-else :working="s.takeoff.working" />
          <p v-if="s.takeoff.perimeter > 0 && s.surface.floor.outline.length > 0" class="small">
            Around the walls {{ session.format('length', s.takeoff.perimeter) }}, around columns
            {{ session.format('length', s.takeoff.holeEdge) }}.
          </p>
          <PieceTable v-if="!s.takeoff.panels && s.takeoff.partWorkings" :workings="s.takeoff.partWorkings" />
          <p v-if="s.takeoff.water" class="small">
            Around the top edge {{ session.format('length', s.takeoff.perimeter) }}; water
            {{ session.format('volume', s.takeoff.water) }}.
          </p>
          <p v-for="(strip, i) in s.takeoff.strips ?? []" :key="i" class="small">
            {{ strip.piece }}: only {{ session.format('length', strip.width) }} {{ strip.name }}; pour there
            on purpose.
          </p>
          <p v-if="s.takeoff.filler > 0" class="small">
            To fill cracks and joints: {{ session.format('volume', s.takeoff.filler) }}.
          </p>
        </div>
      </div>
      <p class="small">Checked with a tape by ______________________ on ____________</p>
    </article>
  </div>
</template>

<style scoped>
.one {
  padding: 18px 22px;
  margin-bottom: 20px;
  display: grid;
  gap: 14px;
  break-after: page;
}
.halves {
  display: grid;
  grid-template-columns: 1.4fr 1fr;
  gap: 22px;
}
.workings {
  display: grid;
  gap: 14px;
  align-content: start;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: 1fr;
  }
}
@media print {
  .one {
    border: 0;
    padding: 0;
    margin: 0;
    gap: 8px;
  }
  .one:last-of-type {
    break-after: auto;
  }
  .halves {
    grid-template-columns: 1.1fr 1fr;
    gap: 16px;
  }
  .halves :deep(svg) {
    max-height: 150mm;
  }
}
</style>
