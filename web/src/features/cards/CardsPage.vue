<script setup lang="ts">
import { computed, ref } from 'vue'
import PickField from '../../fields/PickField.vue'
import IssueMark from './IssueMark.vue'
import MixCard from './MixCard.vue'
import SectionPlan from '../../drawing/SectionPlan.vue'
import SpanList from '../measure/SpanList.vue'
import TapeMarks from '../pour/TapeMarks.vue'
import { usePlannedJob } from '../job/usePlannedJob'
import { useSession } from '../../session/session'

const props = defineProps<{ id: string }>()
const session = useSession()
const { job, trouble, issues } = usePlannedJob(props.id)
const coat = ref('')

const all = computed(() =>
  (job.value?.plan.surfaces ?? []).flatMap((plan) => {
    const surface = job.value?.file.job.surfaces.find((s) => s.id === plan.id)
    return surface
      ? plan.coats
          .filter((c) => (c.cards?.length ?? 0) > 0)
          .map((c) => ({ surface, plan, coat: c, coats: plan.coats.length, key: c.id }))
      : []
  }),
)
const shown = computed(() => all.value.filter((e) => coat.value === '' || e.key === coat.value))
function print(): void {
  window.print()
}
</script>

<template>
  <div class="page cards">
    <div class="row mb-4 no-print">
      <v-btn variant="text" :to="`/jobs/${id}`">‹ Back to the job</v-btn>
      <h1 class="grow">Mix cards{{ job ? `: ${job.file.job.name}` : '' }}</h1>
      <PickField
        v-if="all.length > 1"
        v-model="coat"
        label="Coat whose cards are shown"
        open
        none="all coats"
        :options="Object.fromEntries(all.map((e) => [e.key, `${e.surface.name}, coat ${e.coat.number}`]))"
      />
      <v-btn color="primary" variant="flat" data-test="print" @click="print">Print</v-btn>
    </div>
    <p v-if="issues?.changes.length" role="alert" class="no-print">
      These cards differ from plan {{ issues.lines[0]?.number }}, which the crew has:
      {{ issues.changes[0]?.text }}
      Issue the plan again before they are printed.
    </p>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-else-if="job && all.length === 0" class="quiet">
      There are no batches yet, so there is nothing to mix. Measure a surface and give it a coat first.
    </p>
    <p v-else-if="!job" class="quiet">Reading the cards …</p>
    <section v-for="e in shown" :key="e.key">
      <div class="map sheet">
        <h2>{{ e.surface.name }}: coat {{ e.coat.number }}, {{ e.coat.name }}</h2>
        <div class="mapped">
          <SectionPlan v-if="e.plan.course" :surface="e.surface" :plan="e.plan" :coat="e.coat" />
          <SpanList v-else-if="e.plan.takeoff?.panels?.length" :coat="e.coat" />
          <TapeMarks v-if="(e.coat.cuts?.length ?? 0) > 0" :cuts="e.coat.cuts ?? []" :surface="e.surface" />
          <p v-else-if="(e.coat.sections?.length ?? 0) < 2" class="quiet">
            One batch covers it all: {{ session.format('area', e.plan.takeoff?.area ?? 0) }}.
          </p>
        </div>
        <div v-if="e.coat.ahead?.length" class="ahead" data-test="ahead">
          <h3>Before the first pail of coat {{ e.coat.number }}</h3>
          <ol>
            <li v-for="a in e.coat.ahead" :key="a">{{ a }}</li>
          </ol>
        </div>
      </div>
      <MixCard
        v-for="c in e.coat.cards ?? []"
        :key="c.batch"
        :card="c"
        :surface="e.surface.name"
        :coat="e.coat.number"
        :coats="e.coats"
        :zone="job?.plan.zone"
        :clock="`${id}.${e.key}.${c.batch}`"
      >
        <IssueMark
          v-if="issues"
          :issues="issues"
          :zone="job?.plan.zone"
          :path="`/jobs/${id}/day/${e.key}/${c.batch}`"
        />
      </MixCard>
    </section>
  </div>
</template>

<style scoped>
.map {
  padding: 16px 20px;
  margin-bottom: 22px;
  break-after: page;
}
.ahead {
  margin-top: 14px;
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
section + section {
  break-before: page;
}
@media print {
  .page {
    padding: 0;
    max-width: none;
  }
  .map {
    border: 0;
  }
  .mapped {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
}
</style>
