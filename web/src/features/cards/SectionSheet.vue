<script setup lang="ts">
import type { CoatPlan, Surface, SurfacePlan } from '../../api/client'
import SectionPlan from '../../drawing/SectionPlan.vue'
import { useSession } from '../../session/session'
import SpanList from '../measure/SpanList.vue'
import TapeMarks from '../pour/TapeMarks.vue'

/** Where the sections of a coat lie, how their tape is set out, and what is done before the first pail. */
defineProps<{ surface: Surface; plan: SurfacePlan; coat: CoatPlan; paper?: boolean }>()
/** Drawn so small that its letters are read on paper. */
const PAPER = { width: 430, height: 340 }
const session = useSession()
</script>

<template>
  <div class="map sheet">
    <h2>{{ surface.name }}: coat {{ coat.number }}, {{ coat.name }}</h2>
    <div class="mapped" :class="{ taped: (coat.cuts?.length ?? 0) > 0 }">
      <SectionPlan
        v-if="plan.course"
        :surface="surface"
        :plan="plan"
        :coat="coat"
        v-bind="paper ? PAPER : undefined"
      />
      <SpanList v-else-if="plan.takeoff?.panels?.length" :coat="coat" />
      <TapeMarks
        v-if="(coat.cuts?.length ?? 0) > 0"
        class="tape"
        :cuts="coat.cuts ?? []"
        :surface="surface"
      />
      <p v-else-if="(coat.sections?.length ?? 0) < 2" class="quiet">
        One batch covers it all: {{ session.format('area', plan.takeoff?.area ?? 0) }}.
      </p>
      <div v-if="coat.ahead?.length" class="ahead" data-test="ahead">
        <h3>Before the first pail of coat {{ coat.number }}</h3>
        <ol>
          <li v-for="a in coat.ahead" :key="a">{{ a }}</li>
        </ol>
      </div>
    </div>
  </div>
</template>

<style scoped>
.map {
  padding: 16px 20px;
  margin-bottom: 22px;
}
.ahead {
  grid-column: 1 / -1;
}
.ahead ol {
  margin: 4px 0 0;
  padding-left: 20px;
}
.mapped {
  display: grid;
  grid-template-columns: 1.5fr 1fr;
  gap: 20px;
  margin-top: 10px;
}
@media screen and (max-width: 900px) {
  .mapped {
    grid-template-columns: 1fr;
  }
}
@media print {
  .map {
    border: 0;
    padding: 0;
    margin: 0;
    break-after: page;
    zoom: 0.8;
  }
  .mapped {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
  .mapped.taped {
    grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
    grid-template-rows: auto 1fr;
  }
  /* The lines to set out stand beside the plan and what is done first. */
  .taped .tape {
    grid-row: 1 / 3;
    grid-column: 2;
  }
  .taped .ahead {
    grid-column: 1;
  }
  .ahead {
    font-size: 1.12rem;
    line-height: 1.25;
  }
}
</style>
