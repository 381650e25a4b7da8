<script setup lang="ts">
import { computed } from 'vue'
import type { Coat, CoatPlan, Medium, Portion } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import OwnOffer from '../record/OwnOffer.vue'
import { useCoatFloors } from '../record/useCoatFloors'
import { minuteTime } from '../../fields/clock'
import FoldPanel from '../../fields/FoldPanel.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'

/** What goes into and onto a coat beside its parts, and when it follows the one below. */
const props = defineProps<{
  coat: Coat
  plan?: CoatPlan
  below?: CoatPlan
  number: number
  media: Medium[]
}>()
const emit = defineEmits<{ change: [label: string, by: (coat: Coat) => void, medium?: Medium] }>()
const desk = useDesk()
const session = useSession()
const USUAL_DOSE = 60
const USUAL_PIGMENT = 0.03

const sheet = computed(() => desk.file.value.products.find((p) => p.id === props.coat.product))
const hardeners = computed(() =>
  Object.fromEntries((sheet.value?.hardeners ?? []).map((h) => [h.id, h.name])),
)
function named(...kinds: Medium['kind'][]): Record<string, string> {
  return Object.fromEntries(props.media.filter((m) => kinds.includes(m.kind)).map((m) => [m.id, m.name]))
}
const scattered = computed(() => named('flake', 'quartz', 'grit', 'bead', 'pebble'))
const gritty = computed(() => named('grit', 'bead'))
const pigments = computed(() => named('pigment'))
type Throw = NonNullable<NonNullable<Coat['scatter']>['way']>
const throwWords: Record<Throw, string> = {
  hand: 'by hand from a bucket',
  blower: 'by blower',
  spikes: 'in spiked shoes',
}
const floors = useCoatFloors()
/** How fast own floors show that one person broadcasts, where that is not used yet. */
const throws = computed(() => {
  const own = props.coat.scatter && floors(props.coat, 'casting')
  return own?.floors.throws && own.floors.throws !== props.coat.scatter?.pace?.value
    ? { value: own.floors.throws, estimate: own.estimate }
    : undefined
})
function takeThrows(coat: Coat): void {
  if (coat.scatter && throws.value) coat.scatter.pace = { value: throws.value.value, source: 'own-test' }
}
/** Stones are wetted in the mix and laid with it, not thrown. */
const wets = computed(() => props.coat.amount.basis === 'by-stone')
const degrees = { light: 'lightly', even: 'evenly', full: 'to rejection' }
const bases = { a: 'of A', 'a+b': 'of A + B', mix: 'of the finished mix' }

const moments: Record<NonNullable<Coat['when']>, string> = {
  morning: 'not before the next morning',
  tacky: 'while the coat below is tacky',
}
/** In which hours its first kit is opened, in words. */
const hours = computed(() => {
  const h = props.coat.hours
  if (!h) return ''
  const clock = (at: string): string => minuteTime(`2000-01-01T${at}:00Z`, 'UTC')
  return [
    h.from ? `from ${clock(h.from)}` : '',
    h.until ? `by ${clock(h.until)}` : '',
    h.shade ? 'out of the sun' : '',
    h.falling ? 'on a falling slab' : '',
  ]
    .filter(Boolean)
    .join(', ')
})
function openFrom(label: string, change: Partial<NonNullable<Coat['hours']>>): void {
  edit(label, (x) => {
    const next = Object.fromEntries(Object.entries({ ...x.hours, ...change }).filter(([, v]) => v))
    x.hours = Object.keys(next).length > 0 ? next : undefined
  })
}
const told = computed(() => {
  const c = props.coat
  const name = (id: string | undefined): string => props.media.find((m) => m.id === id)?.name ?? 'pigment'
  return [
    c.hardener ? hardeners.value[c.hardener] : '',
    c.thinner ? `thinned by ${session.format('fraction', c.thinner.value)} ${bases[c.thinner.of]}` : '',
    c.pigment ? `${session.format('fraction', c.pigment.portion.value)} ${name(c.pigment.medium)}` : '',
    c.grit ? `${name(c.grit.medium)}, ${session.format('content', c.grit.dose.value)}` : '',
    c.scatter ? `${name(c.scatter.medium)} ${degrees[c.scatter.degree]}` : '',
    c.wait !== undefined ? `${session.format('span', c.wait)} after the coat below` : '',
    c.seal ? 'seal coat' : '',
    c.abraded ? 'abraded before' : '',
    c.overWet ? 'over the coat below, wet' : '',
    c.when ? moments[c.when] : '',
    hours.value,
  ].filter(Boolean)
})
const window = computed(() => {
  const w = props.below?.window
  if (!w) return ''
  const from = w.from ? `from ${session.format('span', w.from)}` : ''
  const until = w.until ? `until ${session.format('span', w.until)}` : ''
  return `recoat window: ${[from, until].filter(Boolean).join(' ')} at ${session.format('temperature', w.at)}${w.outside ? ', beyond its sheet' : ''}`
})

function medium(id: string): Medium | undefined {
  return props.media.find((m) => m.id === id)
}
function scatter(id: string): void {
  const degree = props.coat.scatter?.degree ?? 'full'
  emit('change', 'scatter', (c) => (c.scatter = id ? { medium: id, degree } : undefined), medium(id))
}
function grit(id: string): void {
  const dose = props.coat.grit?.dose ?? { value: USUAL_DOSE, source: 'rule-of-thumb' as const }
  emit('change', 'grit', (c) => (c.grit = id ? { medium: id, dose } : undefined), medium(id))
}
function pigment(id: string): void {
  const portion: Portion = props.coat.pigment?.portion ?? {
    value: USUAL_PIGMENT,
    of: 'a+b',
    source: 'rule-of-thumb',
  }
  const dark = props.coat.pigment?.dark
  emit('change', 'pigment', (c) => (c.pigment = id ? { medium: id, dark, portion } : undefined), medium(id))
}
/** The pack of the grit and the kit of the product in which a dose may be stated: those named, or the first. */
const packet = computed(() => {
  const own = props.coat.grit?.packs
  const pack = own?.pack ?? medium(props.coat.grit?.medium ?? '')?.packs[0]?.name
  const kit = own?.kit ?? sheet.value?.kits.find((k) => !k.gone)?.name
  return pack && kit ? { pack, kit } : undefined
})
function packets(count: number | undefined): void {
  const of = packet.value
  edit('packs to a kit', (x) => x.grit && (x.grit.packs = count && of ? { count, ...of } : undefined))
}
function edit(label: string, by: (coat: Coat) => void): void {
  emit('change', label, by)
}
function thin(value: number, of: Portion['of']): void {
  edit('thinner', (c) => {
    c.thinner = value > 0 ? { value, of, source: 'own-test' } : undefined
    if (!c.thinner) c.thinWith = undefined
  })
}
const thinnerTold = computed(() => {
  const most = sheet.value?.thinnerMax
  if (!most) return 'not stated on its sheet'
  return most.value > 0
    ? `sheet: at most ${session.format('fraction', most.value)} ${bases[most.of]}`
    : 'sheet: never'
})
const fields = computed<(Field | false | undefined)[]>(() => {
  const c = props.coat
  const n = props.number
  return [
    Object.keys(hardeners.value).length > 0 && {
      as: 'pick',
      label: `Hardener of coat ${n}`,
      value: c.hardener,
      options: hardeners.value,
      none: 'standard hardener',
      take: (v) => edit('hardener', (x) => (x.hardener = v || undefined)),
    },
    n > 1 && {
      as: 'tick',
      label: 'Poured over the coat below while that still flows',
      heard: `Coat ${n} is poured over the coat below wet`,
      value: c.overWet,
      take: (on) =>
        edit('poured over', (x) => {
          x.overWet = on || undefined
          if (on) x.wait = x.abraded = x.when = x.hours = undefined
        }),
    },
    n > 1 &&
      !c.overWet && {
        as: 'pick',
        label: `Coat ${n} is laid`,
        value: c.when,
        options: moments,
        none: 'as soon as possible',
        take: (v) =>
          edit('when', (x) => {
            x.when = (v || undefined) as Coat['when']
            if (v === 'tacky') x.wait = x.abraded = undefined
          }),
      },
    n > 1 &&
      !c.overWet &&
      c.when !== 'tacky' && {
        as: 'quantity',
        kind: 'span',
        label: `Wait before coat ${n}`,
        value: c.wait,
        told: window.value || 'the coat below gives no window',
        take: (v) => edit('wait', (x) => (x.wait = v)),
      },
    n > 1 &&
      !c.overWet &&
      c.when !== 'tacky' && {
        as: 'tick',
        label: 'Abrade and clean the coat below first',
        heard: `Abraded before coat ${n}`,
        value: c.abraded,
        take: (on) => edit('abraded', (x) => (x.abraded = on || undefined)),
      },
    !c.overWet && {
      as: 'time',
      label: `First kit of coat ${n} from`,
      value: c.hours?.from,
      told: 'by the clock on site',
      take: (from) => openFrom('earliest hour', { from }),
    },
    !c.overWet && {
      as: 'time',
      label: `First kit of coat ${n} by`,
      value: c.hours?.until,
      told: 'such as 10:00, before the slab is hot',
      take: (until) => openFrom('latest hour', { until }),
    },
    !c.overWet && {
      as: 'tick',
      label: 'Only while the sun is off it',
      heard: `Coat ${n} only while the sun is off it`,
      value: c.hours?.shade,
      take: (shade) => openFrom('shade', { shade }),
    },
    !c.overWet && {
      as: 'tick',
      label: 'Only while the slab cools',
      heard: `Coat ${n} only while the slab cools`,
      value: c.hours?.falling,
      take: (falling) => openFrom('falling slab', { falling }),
    },
    n === 1 && {
      as: 'tick',
      label: 'Seal coat: clears the pores, soaks in, may be thinner than its sheet’s minimum film',
      heard: `Coat ${n} is a seal coat`,
      value: c.seal,
      take: (on) => edit('seal coat', (x) => (x.seal = on || undefined)),
    },
    {
      as: 'quantity',
      kind: 'fraction',
      label: `Thinner in coat ${n}`,
      value: c.thinner?.value ?? 0,
      told: thinnerTold.value,
      take: (v) => thin(v, c.thinner?.of ?? 'a+b'),
    },
    c.thinner && {
      as: 'pick',
      label: `Thinner of coat ${n} is a share`,
      value: c.thinner.of,
      options: bases,
      take: (v) => thin(c.thinner?.value ?? 0, v as Portion['of']),
    },
    c.thinner && {
      as: 'pick',
      label: `Thinned with, coat ${n}`,
      value: c.thinWith,
      options: named('thinner'),
      none: 'not named: no packs are bought',
      take: (id) => emit('change', 'thinner', (x) => (x.thinWith = id || undefined), medium(id)),
    },
    {
      as: 'pick',
      label: `Pigment of coat ${n}`,
      value: c.pigment?.medium,
      options: pigments.value,
      none: 'none',
      take: pigment,
    },
    c.pigment && {
      as: 'quantity',
      kind: 'fraction',
      label: `Pigment in coat ${n}`,
      told: bases[c.pigment.portion.of],
      value: c.pigment.portion.value,
      take: (value) =>
        edit(
          'pigment share',
          (x) => x.pigment && (x.pigment.portion = { ...x.pigment.portion, value, source: 'own-test' }),
        ),
    },
    c.pigment && {
      as: 'tick',
      label: 'Dark enough to hide fillings',
      value: c.pigment.dark,
      take: (on) => edit('dark', (x) => x.pigment && (x.pigment.dark = on || undefined)),
    },
    {
      as: 'pick',
      label: `Stirred into coat ${n}`,
      value: c.grit?.medium,
      options: gritty.value,
      none: 'no grit',
      take: grit,
    },
    c.grit &&
      !c.grit.packs && {
        as: 'quantity',
        kind: 'content',
        label: `Grit in coat ${n}`,
        value: c.grit.dose.value,
        positive: true,
        take: (value) => edit('dose', (x) => x.grit && (x.grit.dose = { value, source: 'own-test' })),
      },
    c.grit &&
      packet.value && {
        as: 'number',
        label: `Or so many × ${packet.value.pack} to one ${packet.value.kit}`,
        value: c.grit.packs?.count,
        least: 0,
        most: 50,
        optional: true,
        take: packets,
      },
    {
      as: 'pick',
      label: `Broadcast into coat ${n}`,
      value: c.scatter?.medium,
      options: scattered.value,
      none: 'nothing',
      take: scatter,
    },
    c.scatter && {
      as: 'pick',
      label: `Broadcast rate of coat ${n}`,
      value: c.scatter.degree,
      options: degrees,
      take: (v) => edit('degree', (x) => x.scatter && (x.scatter.degree = v as keyof typeof degrees)),
    },
    c.scatter && {
      as: 'quantity',
      kind: 'coverage',
      label: `Stays in coat ${n}`,
      told: c.scatter.mass ? '' : 'by its broadcast rate',
      value: c.scatter.mass?.value,
      take: (value) =>
        edit(
          'scattered',
          (x) => x.scatter && (x.scatter.mass = value ? { value, source: 'own-test' } : undefined),
        ),
    },
    c.scatter &&
      !wets.value && {
        as: 'pick',
        label: `Way of broadcasting coat ${n}`,
        value: c.scatter.way ?? 'hand',
        options: throwWords,
        take: (v) => edit('way of broadcasting', (x) => x.scatter && (x.scatter.way = v as Throw)),
      },
    c.scatter &&
      !wets.value && {
        as: 'quantity',
        kind: 'mass-rate',
        label: `One person broadcasts, coat ${n}`,
        told: c.scatter.pace ? '' : 'by the way it is thrown',
        value: c.scatter.pace?.value,
        take: (value) =>
          edit(
            'pace of broadcasting',
            (x) => x.scatter && (x.scatter.pace = value ? { value, source: 'own-test' } : undefined),
          ),
      },
  ]
})
</script>

<template>
  <FoldPanel class="extras" :data-test="`extras-${number}`">
    <template #title>
      Additions and timing<span v-if="told.length" class="told">: {{ told.join(' · ') }}</span>
    </template>
    <FieldGrid :fields="fields" />
    <OwnOffer
      v-if="throws && session.mayEdit"
      :label="`Broadcasting pace of own floors for coat ${number}`"
      :told="`one person broadcasts ${session.format('mass-rate', throws.value)}`"
      :estimate="throws.estimate"
      @take="edit('pace of broadcasting', takeThrows)"
    />
    <ul v-if="plan?.build?.additions?.length" class="small goes">
      <li v-for="a in plan.build.additions" :key="a.name + a.how">
        {{ a.name }} {{ a.how }}:
        <b>{{ session.amount(a) }}</b>
      </li>
    </ul>
  </FoldPanel>
</template>

<style scoped>
.extras {
  margin-top: 6px;
}
.goes {
  list-style: none;
  padding: 0;
}
</style>
