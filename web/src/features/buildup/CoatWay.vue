<script setup lang="ts">
import { computed } from 'vue'
import type { Coat } from '../../api/client'
import { kitPolicies } from '../pour/words'
import FoldPanel from '../../fields/FoldPanel.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import { useDesk } from '../job/useEditor'
import PumpFields from '../batches/PumpFields.vue'
import { useSession } from '../../session/session'

const props = defineProps<{ coat: Coat; number: number }>()
const emit = defineEmits<{ change: [label: string, by: (coat: Coat) => void] }>()
const session = useSession()
const desk = useDesk()
const upright = computed(() => (desk.surfacePlan.value?.takeoff?.facing.vertical ?? 0) > 0)
const MOST_SPREADERS = 50
type OwnWay = NonNullable<Coat['own']>
const layings: Record<NonNullable<OwnWay['laying']>, string> = {
  pour: 'poured and spread',
  dip: 'dipped and rolled',
  trowel: 'by trowel',
  brush: 'by brush',
  spray: 'sprayed',
}
const parts = { upright: 'edges and upright faces only', level: 'level areas only' }
function own(label: string, by: Partial<OwnWay>): void {
  emit('change', label, (c) => {
    const next = { ...c.own, ...by }
    c.own = Object.values(next).some((v) => v !== undefined) ? next : undefined
  })
}
/** How this coat is laid and mixed where that departs from the job. */
const ways = computed<(Field | false)[]>(() => {
  const n = props.number
  const o = props.coat.own
  const job = 'as the job'
  return [
    {
      as: 'pick',
      label: `Coat ${n} goes on`,
      value: props.coat.on,
      options: parts,
      none: 'the whole surface',
      take: (v) =>
        emit('change', 'on', (c) => {
          c.on = (v || undefined) as Coat['on']
          if (c.on) c.faces = undefined
        }),
    },
    !props.coat.on &&
      (props.coat.faces || upright.value) && {
        as: 'sourced',
        kind: 'film',
        label: `Film on edges and upright faces, coat ${n}`,
        value: props.coat.faces,
        from: 'own-test',
        take: (v) => emit('change', 'film on edges', (c) => (c.faces = v)),
      },
    {
      as: 'pick',
      label: `Coat ${n} is laid`,
      value: o?.laying,
      options: layings,
      none: job,
      take: (v) => own('laying', { laying: (v || undefined) as OwnWay['laying'] }),
    },
    {
      as: 'number',
      label: `People spreading coat ${n}`,
      value: o?.spreaders,
      told: o?.spreaders ? '' : job,
      whole: true,
      least: 1,
      most: MOST_SPREADERS,
      optional: true,
      take: (v) => own('spreaders', { spreaders: v }),
    },
    {
      as: 'pick',
      label: `Coat ${n} is mixed in`,
      value: o?.kits,
      options: kitPolicies,
      none: job,
      take: (v) => own('kits', { kits: (v || undefined) as OwnWay['kits'] }),
    },
    {
      as: 'quantity',
      kind: 'volume',
      label: `Bucket of coat ${n}`,
      value: o?.bucket,
      told: o?.bucket ? '' : job,
      take: (v) => own('bucket', { bucket: v || undefined }),
    },
    {
      as: 'quantity',
      kind: 'volume',
      label: `Largest batch wanted, coat ${n}`,
      value: o?.batch,
      told: o?.batch ? '' : 'as large as its limits allow',
      take: (v) => own('batch', { batch: v || undefined }),
    },
  ]
})
const told = computed(() => {
  const o = props.coat.own
  const { on, faces } = props.coat
  if (!o && !on && !faces) return 'as the job'
  return [
    on ? parts[on] : '',
    faces ? `${session.format('film', faces.value)} on edges` : '',
    o?.laying ? layings[o.laying] : '',
    o?.spreaders ? `${o.spreaders} spreading` : '',
    o?.kits ? kitPolicies[o.kits] : '',
    o?.bucket ? `bucket of ${session.format('volume', o.bucket)}` : '',
    o?.batch ? `at most ${session.format('volume', o.batch)} a batch` : '',
    o?.pumps ? 'pumps of its own' : '',
  ]
    .filter(Boolean)
    .join(' · ')
})
</script>

<template>
  <FoldPanel class="way" :data-test="`way-${number}`">
    <template #title>
      Laying and mixing<span class="told">: {{ told }}</span>
    </template>
    <FieldGrid :fields="ways" />
    <PumpFields :pumps="coat.own?.pumps" :coat="number" @update:pumps="own('pumps', { pumps: $event })" />
  </FoldPanel>
</template>

<style scoped>
.way {
  margin-top: 6px;
}
</style>
