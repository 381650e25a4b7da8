<script setup lang="ts">
import { computed, ref } from 'vue'
import { useSession } from '../../session/session'
import PageParts from '../../shell/PageParts.vue'
import SideSheet from '../../shell/SideSheet.vue'
import { useDesk } from '../job/useEditor'
import { useInTurn } from '../../fields/useInTurn'
import { sourceWords } from '../../fields/sources'
import BatchTrain from './BatchTrain.vue'
import CoatPaces from './CoatPaces.vue'
import FilmTimes from './FilmTimes.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import FindingList from '../job/FindingList.vue'
import MixingPlace from './MixingPlace.vue'
import SchoolPicks from './SchoolPicks.vue'

const desk = useDesk()
const session = useSession()
const setting = ref(false)
const part = ref('batches')
const standing = useInTurn(desk.surface.value.coats.length + 1)
const findings = computed(() => desk.findings('batches'))
/** What the batches below rest on, in a line. */
const setup = computed(() => {
  const { crew, bucket, mixing } = desk.file.value.job
  const people = crew.spreaders
  const a = mixing?.a?.value ?? desk.plan.value.slab.parts
  const b = mixing?.b?.value ?? a
  const warmth = session.format('temperature', a)
  return [
    crew.alone
      ? `${people} ${people === 1 ? 'person mixes and spreads' : 'people mix and spread in turn'}`
      : `${people} ${people === 1 ? 'person spreads' : 'people spread'}, ${mixing?.drills ?? 1} mixing`,
    `${session.format('pace', crew.pace.value)} each`,
    `bucket of ${session.format('volume', bucket.volume)}`,
    a === b ? `parts come at ${warmth}` : `A at ${warmth}, B at ${session.format('temperature', b)}`,
  ].join(' · ')
})
const MOST_SPREADERS = 50
const fields = computed<Field[]>(() => {
  const { crew, bucket } = desk.file.value.job
  const { edit } = desk.editor
  return [
    {
      as: 'number',
      label: crew.alone ? 'People, mixing and spreading' : 'People spreading (not the mixer)',
      value: crew.spreaders,
      told: crew.team?.length ? 'set by the team on the Pour page' : '',
      locked: !!crew.team?.length,
      whole: true,
      least: 1,
      most: MOST_SPREADERS,
      take: (n) => edit('spreaders', (f) => n && (f.job.crew.spreaders = n)),
    },
    {
      as: 'tick',
      label: 'Spreaders also mix, in turn',
      heard: 'Spreaders also mix',
      value: crew.alone,
      locked: !!crew.team?.length,
      take: (on) => edit('alone', (f) => (f.job.crew.alone = on || undefined)),
    },
    {
      as: 'quantity',
      kind: 'pace',
      label: 'Pace of one person',
      value: crew.pace.value,
      told: sourceWords[crew.pace.source],
      positive: true,
      take: (value) => edit('pace', (f) => (f.job.crew.pace = { value, source: 'own-test' })),
    },
    {
      as: 'quantity',
      kind: 'volume',
      label: 'Bucket, to the brim',
      value: bucket.volume,
      positive: true,
      take: (v) => edit('bucket', (f) => (f.job.bucket.volume = v)),
    },
    {
      as: 'quantity',
      kind: 'fraction',
      label: 'Headroom for the paddle',
      value: bucket.headroom,
      take: (v) => edit('headroom', (f) => (f.job.bucket.headroom = v)),
    },
  ]
})
</script>

<template>
  <section id="batches" class="panel" aria-labelledby="batches-title">
    <div class="row">
      <h2 id="batches-title">Batches</h2>
      <PageParts
        v-model="part"
        class="grow"
        :parts="{ batches: 'Batches', times: 'Curing times' }"
        label="Batches"
      />
      <v-btn data-test="to-setup" :aria-expanded="setting" @click="setting = !setting"
        >Crew and mixing place …</v-btn
      >
    </div>
    <p class="quiet mb-3" data-test="setup">{{ setup }}</p>
    <SideSheet v-model="setting" title="Crew and mixing place">
      <FieldGrid :fields="fields" :columns="2" />
      <MixingPlace />
      <SchoolPicks :ids="['kits', 'first', 'residue', 'tinting']" />
      <CoatPaces />
    </SideSheet>
    <v-tabs-window v-model="part">
      <v-tabs-window-item value="batches">
        <FindingList :findings="findings.filter((f) => f.level !== 'note')" />
        <BatchTrain
          v-for="c in desk.surfacePlan.value?.coats.slice(0, standing) ?? []"
          :key="c.id"
          :coat="c"
        />
        <FindingList class="mt-4" :findings="findings.filter((f) => f.level === 'note')" />
        <p v-if="!desk.surfacePlan.value?.coats.some((c) => c.division)" class="quiet">
          Once {{ desk.surface.value.name }} is measured and has a coat, its batches appear here.
        </p>
      </v-tabs-window-item>
      <v-tabs-window-item value="times"><FilmTimes /></v-tabs-window-item>
    </v-tabs-window>
  </section>
</template>
