<script setup lang="ts">
import { computed } from 'vue'
import type { Job } from '../../api/client'
import FoldPanel from '../../fields/FoldPanel.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'

/** How the work on the floor divides, how fast pails are carried, and how far things depart from the plan. */
const desk = useDesk()
const session = useSession()
type Crew = Job['crew']
type Divides = NonNullable<Crew['divides']>
type Spreads = NonNullable<Crew['spreads']>
const crew = computed(() => desk.file.value.job.crew)
const USUAL: Divides = { pour: 0.1, cutIn: 0.1, spread: 0.45, roll: 0.35 }
const VARIES: Spreads = { pace: 0.15, work: 0.1, mixing: 0.1, life: 0.1, warmth: 1.5 }
const parts: Record<keyof Divides, string> = {
  pour: 'Pouring out',
  cutIn: 'Cutting in',
  spread: 'Spreading',
  roll: 'Rolling',
}
const spreads: Record<Exclude<keyof Spreads, 'warmth'>, string> = {
  pace: "The crew's pace, day to day",
  work: 'Work on one section',
  mixing: 'Mixing one batch',
  life: 'Pot life, lot to lot',
}
function set(label: string, by: Partial<Crew>): void {
  desk.editor.edit(label, (f) => (f.job.crew = { ...f.job.crew, ...by }))
}
const fields = computed<Field[]>(() => {
  const divides = crew.value.divides ?? USUAL
  const varies = crew.value.spreads ?? VARIES
  return [
    ...(Object.keys(parts) as (keyof Divides)[]).map((key): Field => ({
      as: 'quantity',
      kind: 'fraction',
      label: parts[key],
      told: crew.value.divides
        ? 'of the work, compared with the others'
        : `usually ${session.format('fraction', USUAL[key])}, poured and spread`,
      value: crew.value.divides?.[key],
      take: (value) => set('shares of the work', { divides: { ...divides, [key]: value } }),
    })),
    {
      as: 'number',
      label: 'Walking with a full pail, m/s',
      told: crew.value.walking ? '' : '1, common practice',
      value: crew.value.walking,
      least: 0,
      most: 5,
      optional: true,
      take: (walking) => set('walking', { walking: walking || undefined }),
    },
    ...(Object.keys(spreads) as (keyof typeof spreads)[]).map((key): Field => ({
      as: 'quantity',
      kind: 'fraction',
      label: spreads[key],
      told: crew.value.spreads ? 'varies by about' : 'usual spread, common practice',
      value: varies[key],
      take: (value) => set('spreads', { spreads: { ...varies, [key]: value } }),
    })),
    {
      as: 'number',
      label: 'Temperature, K',
      told: 'differs from the plan by about',
      value: varies.warmth,
      least: 0,
      most: 20,
      take: (warmth) => set('spreads', { spreads: { ...varies, warmth: warmth ?? VARIES.warmth } }),
    },
  ]
})
const own = computed(() => crew.value.divides || crew.value.spreads || crew.value.walking)
</script>

<template>
  <FoldPanel class="mb-3" data-test="paces" open>
    <template #title>
      Shares and variation of the work<span class="quiet">: {{ own ? "the crew's own" : 'as usual' }}</span>
    </template>
    <FieldGrid class="mt-2" :fields="fields" :columns="4" :locked="!session.mayEdit" />
    <v-btn
      v-if="own && session.mayEdit"
      size="small"
      class="mt-2"
      @click="set('paces', { divides: undefined, spreads: undefined, walking: undefined })"
      >Reset to usual</v-btn
    >
  </FoldPanel>
</template>
