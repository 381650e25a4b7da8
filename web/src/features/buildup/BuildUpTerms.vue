<script setup lang="ts">
import { computed } from 'vue'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import { marginWords } from '../job/margins'
import { slabWords } from '../job/slabWords'
import FieldGrid from '../../fields/FieldGrid.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import type { Field } from '../../fields/grid'

/** What the coats must bear, and the temperature they are planned for. */
const desk = useDesk()
const session = useSession()
const job = computed(() => desk.file.value.job)
const service = computed(() => desk.surface.value.service ?? {})
const slips = {
  R9: 'R9, dry rooms',
  R10: 'R10, entrances and kitchens',
  R11: 'R11, wet work',
  R12: 'R12, wash-down',
  R13: 'R13, grease and slopes',
}
const contacts = { food: 'food', potable: 'drinking water' }
type Service = NonNullable<(typeof desk.surface.value)['service']>

function set(change: Partial<Service>): void {
  desk.editSurface('service', (s) => {
    const next = Object.fromEntries(Object.entries({ ...s.service, ...change }).filter(([, v]) => v))
    s.service = Object.keys(next).length > 0 ? (next as Service) : undefined
  })
}
const fields = computed<Field[]>(() => [
  {
    as: 'quantity',
    kind: 'temperature',
    label: 'Planned slab temperature',
    value: desk.plan.value.slab.slab,
    told: slabWords(desk.plan.value, job.value.slab?.source),
    take: (value) => desk.editor.edit('slab', (f) => (f.job.slab = { value, source: 'own-test' })),
  },
  {
    as: 'pick',
    label: 'Films ready even on a slab',
    value: job.value.margin ? String(job.value.margin) : undefined,
    options: marginWords(session.units),
    none: 'as planned',
    told: 'margin for the next coat',
    take: (v) => desk.editor.edit('margin', (f) => (f.job.margin = v ? Number(v) : undefined)),
  },
  {
    as: 'quantity',
    kind: 'content',
    label: 'VOC limit',
    value: job.value.vocMax?.value,
    told: job.value.vocMax ? '0 = no limit' : 'none',
    take: (value) =>
      desk.editor.edit(
        'VOC limit',
        (f) => (f.job.vocMax = value > 0 ? { value, source: 'standard' } : undefined),
      ),
  },
  {
    as: 'pick',
    label: 'Required slip class',
    value: service.value.slip,
    options: slips,
    none: 'none',
    take: (v) => set({ slip: v as Service['slip'] }),
  },
  {
    as: 'pick',
    label: 'Food or water contact',
    value: service.value.contact,
    options: contacts,
    none: 'none',
    take: (v) => set({ contact: v as Service['contact'] }),
  },
  {
    as: 'tick',
    label: 'Exposed to daylight',
    value: service.value.sun,
    take: (sun) => set({ sun }),
  },
])
/** The same in a line. */
const told = computed(() => {
  const { vocMax, margin } = job.value
  const { slip, contact, sun } = service.value
  return [
    `slab ${session.format('temperature', desk.plan.value.slab.slab)}, ${slabWords(desk.plan.value, job.value.slab?.source)}`,
    margin ? `films ready on a slab ${marginWords(session.units)[String(margin)] ?? ''}` : '',
    vocMax ? `VOC limit ${session.format('content', vocMax.value)}` : 'no VOC limit',
    slip ?? 'no slip class',
    contact ? `${contacts[contact]} contact` : '',
    sun ? 'exposed to daylight' : '',
  ]
    .filter(Boolean)
    .join(' · ')
})
</script>

<template>
  <FoldPanel class="mb-3" data-test="terms">
    <template #title
      >Conditions: <span class="told">{{ told }}</span></template
    >
    <FieldGrid :fields="fields" :columns="5" />
  </FoldPanel>
</template>
