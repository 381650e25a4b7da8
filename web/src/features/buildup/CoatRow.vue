<script setup lang="ts">
import { computed } from 'vue'
import type { Coat, CoatPlan, Medium, ShelfLine } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { isWeak, sourceWords } from '../../fields/sources'
import { useSession } from '../../session/session'
import { amountWords, figureWords, isPractical, takesFigure } from '../shelf/kinds'
import CoatExtras from './CoatExtras.vue'
import CoatWay from './CoatWay.vue'
import CoatWaterfall from './CoatWaterfall.vue'
import ColourCups from './ColourCups.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import FigureButton from '../../fields/FigureButton.vue'
import PickField from '../../fields/PickField.vue'
import ProductField from '../shelf/ProductField.vue'
import QuantityField from '../../fields/QuantityField.vue'
import OwnOffer from '../record/OwnOffer.vue'
import { useCoatFloors } from '../record/useCoatFloors'

const props = defineProps<{
  coat: Coat
  plan?: CoatPlan
  index: number
  last: boolean
  open: boolean
  below?: CoatPlan
  media: Medium[]
}>()
const desk = useDesk()
const session = useSession()

type Basis = Coat['amount']['basis']
const build = computed(() => props.plan?.build)
/** How deep a notch is over the wet film it leaves, as the core takes it. */
const NOTCH_OVER_FILM = 2
/** What resin to a mass of stone begins with: common practice, no source. */
const STONES = 0.06
/** Volume of the largest kit of its product, m³. */
const kitVolume = computed(() => {
  const sold = desk.file.value.products.find((p) => p.id === props.coat.product)?.kits ?? []
  const density = build.value?.density.value ?? 0
  return Math.max(...sold.map((k) => (k.gone ? 0 : (k.volume ?? (density ? (k.mass ?? 0) / density : 0)))), 0)
})
const stated = computed(() => {
  const b = build.value
  if (!b) return []
  const kit = kitVolume.value
  const all: { basis: Basis; si: number }[] = [
    { basis: 'wet-film', si: b.wet },
    { basis: 'dry-film', si: b.dry },
    { basis: 'spread', si: b.takes },
    { basis: 'mass-per-area', si: b.coverage },
    { basis: 'notch', si: b.wet * NOTCH_OVER_FILM },
    { basis: 'area-per-kit', si: b.takes * kit },
    { basis: 'by-stone', si: props.coat.scatter?.mass ? b.coverage / props.coat.scatter.mass.value : STONES },
  ]
  return all.filter((o) => o.basis !== props.coat.amount.basis)
})
const others = computed(() =>
  stated.value.filter((o) => !['notch', 'area-per-kit', 'by-stone'].includes(o.basis)),
)

const practical = computed(() => isPractical(props.coat.amount))
const floors = useCoatFloors()
/** The loss that own floors show, for an amount that loss is added to. */
const lost = computed(() => {
  const own = practical.value ? undefined : floors(props.coat, 'loss')
  return own && own.estimate.value >= 0 && own.estimate.value !== props.coat.loss?.value
    ? own.estimate
    : undefined
})
/** The area that own floors show to be covered, on this profile where it is known, as this coat states its amount. */
const covered = computed(() => {
  const own = practical.value ? floors(props.coat, 'covered') : undefined
  const profile = desk.surface.value.survey?.profile
  const estimate =
    own?.floors.byProfile?.find((p) => p.profile === profile && p.estimate.offered)?.estimate ?? own?.estimate
  const kit = kitVolume.value
  if (!estimate || !build.value) return undefined
  const byKit = props.coat.amount.basis === 'area-per-kit'
  const value = estimate.value * (byKit ? kit : 1)
  return value > 0 && value !== props.coat.amount.value
    ? { value, told: session.format(amountWords[props.coat.amount.basis].kind, value), estimate }
    : undefined
})
/** The coat in a line. */
const told = computed(() => {
  const { basis, value } = props.coat.amount
  const { format, price } = session
  return [
    `${amountWords[basis].words} ${format(amountWords[basis].kind, value)}`,
    build.value ? `${format('volume', build.value.need)} to mix` : '',
    props.plan?.price !== undefined ? price(props.plan.price, desk.file.value.job.currency) : '',
  ]
    .filter(Boolean)
    .join(' · ')
})
/** What is added to the film, and why, in one line. */
const added = computed(() => {
  const b = build.value
  if (!b) return ''
  if (b.practical)
    return 'Practical: loss, profile, absorption, residue and edges are in it; nothing is added.'
  const film = b.shares.findIndex((s) => !s.name.startsWith('Film'))
  const more = film < 0 ? [] : b.shares.slice(film).filter((s) => s.volume > 0)
  if (more.length === 0) return 'Nothing is added to the film.'
  const words = more.map((s) => {
    const why = s.name === 'Loss' ? session.format('fraction', b.loss.value) + ', ' : ''
    const source = s.source ? ` (${why}${sourceWords[s.source]})` : ''
    return `${s.name.toLowerCase()} ${session.format('volume', s.volume)}${source}`
  })
  return `Added to the film: ${words.join(' · ')}.`
})

/** Amounts that the sheet prints for certain uses; the one that the coat has, if it is one of them. */
const uses = computed(() => desk.file.value.products.find((p) => p.id === props.coat.product)?.amounts ?? [])
const useOptions = computed(() =>
  uses.value.map((a, i): [string, string] => [
    String(i),
    `${a.for}: ${session.format(amountWords[a.basis].kind, a.value)}`,
  ]),
)
const usedFor = computed(() => {
  const { basis, value } = props.coat.amount
  const i = uses.value.findIndex((a) => a.basis === basis && a.value === value)
  return i < 0 ? '' : String(i)
})
function takeUse(i: string): void {
  const a = uses.value[Number(i)]
  if (i && a)
    change(
      'amount',
      (c) => (c.amount = { basis: a.basis, value: a.value, ...(a.figure && { figure: a.figure }) }),
    )
}

/** Coats that are poured in several colours, and what is coloured already. */
const POURED = ['metallic', 'flood', 'deep-pour', 'body']
const coloured = computed(() => {
  const kind = desk.file.value.products.find((p) => p.id === props.coat.product)?.kind
  return props.coat.colours !== undefined || (kind !== undefined && POURED.includes(kind))
})

function change(label: string, by: (coat: Coat) => void, medium?: Medium): void {
  desk.editSurface(`${props.coat.id} ${label}`, (s, file) => {
    const found = s.coats.find((c) => c.id === props.coat.id)
    if (found) by(found)
    if (medium && !file.media?.some((m) => m.id === medium.id)) file.media = [...(file.media ?? []), medium]
  })
}

const bases = Object.entries(amountWords).map(([basis, b]): [string, string] => [basis, b.words])

function choose({ sheet: product }: ShelfLine): void {
  desk.editSurface(`${props.coat.id} product`, (s, file) => {
    const found = s.coats.find((c) => c.id === props.coat.id)
    if (found) {
      found.product = product.id
      found.hardener = undefined
    }
    if (!file.products.some((p) => p.id === product.id)) file.products.push(product)
  })
}

/** Another basis keeps what is mixed or else the film: the amount is restated, not changed. */
function rebase(to: string): void {
  const basis = to as Basis
  const same = stated.value.find((o) => o.basis === basis)
  change('basis', (c) => (c.amount = { basis, value: same?.si ?? c.amount.value }))
}

function move(by: number): void {
  desk.editSurface('order of coats', (s) => {
    const at = s.coats.findIndex((c) => c.id === props.coat.id)
    const [moved] = s.coats.splice(at, 1)
    if (moved) s.coats.splice(at + by, 0, moved)
  })
}
</script>

<template>
  <li class="coat" :data-test="`coat-${index + 1}`">
    <span class="swatch" :class="{ none: !plan?.color }"
      ><svg aria-hidden="true"><rect width="100%" height="100%" :fill="plan?.color || 'none'" /></svg
    ></span>
    <FoldPanel class="main" :open="open" :data-test="`fold-coat-${index + 1}`">
      <template #title>
        <span class="head">
          <strong>Coat {{ index + 1 }} · {{ plan?.name || coat.product }}</strong>
          <span class="told quiet">{{ told }}</span>
        </span>
      </template>
      <div class="row">
        <ProductField
          class="product"
          bare
          :label="`Product of coat ${index + 1}`"
          :model-value="coat.product"
          :name="plan?.name || coat.product"
          :own="desk.file.value.products"
          @choose="choose"
        />
        <template v-if="session.mayEdit">
          <v-btn
            size="small"
            variant="text"
            :disabled="last"
            :aria-label="`Move coat ${index + 1} up`"
            @click="move(1)"
            >↑</v-btn
          >
          <v-btn
            size="small"
            variant="text"
            :disabled="index === 0"
            :aria-label="`Move coat ${index + 1} down`"
            @click="move(-1)"
            >↓</v-btn
          >
          <v-btn
            size="small"
            variant="text"
            :aria-label="`Remove coat ${index + 1}`"
            @click="
              desk.editSurface('remove coat', (s) => (s.coats = s.coats.filter((c) => c.id !== coat.id)))
            "
          >
            Remove
          </v-btn>
        </template>
      </div>
      <div class="inputs">
        <PickField
          v-if="uses.length"
          :label="`Use of coat ${index + 1}, by its sheet`"
          :model-value="usedFor"
          :options="useOptions"
          none="another amount"
          @update:model-value="takeUse($event ?? '')"
        />
        <PickField
          :label="`Basis of coat ${index + 1}`"
          :model-value="coat.amount.basis"
          :options="bases"
          @update:model-value="rebase"
        />
        <QuantityField
          :kind="amountWords[coat.amount.basis].kind"
          :label="`Amount of coat ${index + 1}`"
          :model-value="coat.amount.value"
          :disabled="!session.mayEdit"
          positive
          @update:model-value="change('amount', (c) => (c.amount.value = $event))"
        />
        <PickField
          v-if="takesFigure(coat.amount.basis)"
          :label="`Figure of coat ${index + 1}`"
          :options="figureWords"
          :model-value="practical ? 'practical' : 'theoretical'"
          @update:model-value="
            (v) => change('figure', (c) => (c.amount.figure = v as Coat['amount']['figure']))
          "
        />
        <QuantityField
          v-if="!practical"
          kind="fraction"
          :label="`Loss of coat ${index + 1}`"
          :model-value="coat.loss?.value ?? build?.loss.value"
          :told="coat.loss ? 'yours' : build ? sourceWords[build.loss.source] : ''"
          :disabled="!session.mayEdit"
          @update:model-value="change('loss', (c) => (c.loss = { value: $event, source: 'own-test' }))"
        />
      </div>
      <OwnOffer
        v-if="lost && session.mayEdit"
        :label="`Loss of own floors for coat ${index + 1}`"
        :told="`loss ${session.format('fraction', lost.value)}`"
        :estimate="lost"
        @take="change('loss', (c) => lost && (c.loss = { value: lost.value, source: 'own-test' }))"
      />
      <OwnOffer
        v-if="covered && session.mayEdit"
        :label="`Amount of own floors for coat ${index + 1}`"
        :told="covered.told"
        :estimate="covered.estimate"
        @take="change('amount', (c) => covered && (c.amount.value = covered.value))"
      />
      <p v-if="build" class="small others">
        <span v-for="o in others" :key="o.basis">
          <span class="quiet">{{
            o.basis === 'spread' ? 'practical spread' : amountWords[o.basis].words
          }}</span>
          <FigureButton
            :workings="build.workings"
            :weak="o.basis === 'mass-per-area' && isWeak(build.density.source)"
          >
            {{ session.format(amountWords[o.basis].kind, o.si) }}
          </FigureButton>
        </span>
        <span>
          <span class="quiet">to mix</span>
          <FigureButton :workings="build.workings" :weak="isWeak(build.loss.source)">
            <strong>{{ session.format('volume', build.need) }}</strong>
          </FigureButton>
          <span class="quiet equals">=</span>
          <FigureButton :workings="build.workings" :weak="isWeak(build.density.source)">{{
            session.format('mass', build.needMass)
          }}</FigureButton>
        </span>
        <span v-if="plan?.price !== undefined">
          <span class="quiet">costs</span> {{ session.price(plan.price, desk.file.value.job.currency) }}
        </span>
      </p>
      <p v-if="build" class="small quiet" data-test="added">{{ added }}</p>
      <CoatExtras
        :coat="coat"
        :plan="plan"
        :below="below"
        :number="index + 1"
        :media="media"
        @change="change"
      />
      <CoatWay :coat="coat" :number="index + 1" @change="change" />
      <ColourCups
        v-if="coloured"
        :coat="coat"
        :number="index + 1"
        :media="media"
        :need="build?.need ?? 0"
        @change="change"
      />
      <CoatWaterfall v-if="plan" :coat="coat" :plan="plan" :number="index + 1" @change="change" />
    </FoldPanel>
  </li>
</template>

<style scoped>
.coat {
  display: grid;
  grid-template-columns: 16px 1fr;
  gap: 14px;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
}
.product {
  flex: 1 1 210px;
}
.swatch {
  position: relative;
  border: 1px solid var(--ink);
}
.swatch svg {
  position: absolute;
  width: 100%;
  height: 100%;
}
.inputs {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 10px;
  align-items: start;
  margin: 10px 0 8px;
}
.others .equals {
  margin: 0 6px;
}
.others .quiet {
  margin-right: 6px;
}
.others {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
}
@media (max-width: 700px) {
  .inputs {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
