<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import { ref } from 'vue'
import SurfaceTabs from '../job/SurfaceTabs.vue'
import { useDesk } from '../job/useEditor'
import { sourceWords } from '../../fields/sources'
import { useSession } from '../people/session'
import BatchTrain from './BatchTrain.vue'
import FilmTimes from './FilmTimes.vue'
import FindingList from '../job/FindingList.vue'
import MixingPlace from './MixingPlace.vue'
import QuantityField from '../../fields/QuantityField.vue'
import SchoolPicks from './SchoolPicks.vue'

const desk = useDesk()
const session = useSession()
const MOST_SPREADERS = 50
const few = ref('')

function spreaders(event: Event): void {
  const wanted = Math.round(Number((event.target as HTMLInputElement).value))
  const possible = wanted >= 1 && wanted <= MOST_SPREADERS
  few.value = possible ? '' : `Someone has to spread: enter 1 to ${MOST_SPREADERS} people.`
  if (possible) desk.editor.edit('spreaders', (f) => (f.job.crew.spreaders = wanted))
}
</script>

<template>
  <SurfaceTabs />
  <section id="batches" class="panel" aria-labelledby="batches-title">
    <h2 id="batches-title" class="mb-3">Batches</h2>
    <div class="crew">
      <TextField
        :model-value="desk.file.value.job.crew.spreaders"
        label="People spreading (not the mixer)"
        type="number"
        min="1"
        max="50"
        :disabled="!session.mayEdit"
        data-test="spreaders"
        :fault="few"
        @change="spreaders"
      />
      <QuantityField
        kind="pace"
        label="Pace of one person"
        :model-value="desk.file.value.job.crew.pace.value"
        :told="sourceWords[desk.file.value.job.crew.pace.source]"
        :disabled="!session.mayEdit"
        positive
        @update:model-value="
          desk.editor.edit('pace', (f) => (f.job.crew.pace = { value: $event, source: 'own-test' }))
        "
      />
      <QuantityField
        kind="volume"
        label="Bucket, to the brim"
        :model-value="desk.file.value.job.bucket.volume"
        :disabled="!session.mayEdit"
        positive
        @update:model-value="desk.editor.edit('bucket', (f) => (f.job.bucket.volume = $event))"
      />
      <QuantityField
        kind="fraction"
        label="Headroom for the paddle"
        :model-value="desk.file.value.job.bucket.headroom"
        :disabled="!session.mayEdit"
        @update:model-value="desk.editor.edit('headroom', (f) => (f.job.bucket.headroom = $event))"
      />
    </div>
    <MixingPlace />
    <SchoolPicks :ids="['kits', 'first', 'residue', 'tinting']" class="mb-3" />
    <FindingList :findings="desk.findings('batches')" />
    <BatchTrain v-for="c in desk.surfacePlan.value?.coats ?? []" :key="c.id" :coat="c" />
    <FilmTimes />
    <p v-if="!desk.surfacePlan.value?.coats.some((c) => c.division)" class="quiet">
      Once {{ desk.surface.value.name }} is measured and has a coat, its batches stand here.
    </p>
  </section>
</template>

<style scoped>
.crew {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 12px;
  align-items: start;
  margin-bottom: 14px;
}
@media (max-width: 900px) {
  .crew {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
