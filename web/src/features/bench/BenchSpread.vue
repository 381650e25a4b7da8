<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { useThrottleFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, type Coat, type Product, type SpreadAnswer, type Surface } from '../../api/client'
import { amountWords, figureWords, isPractical, takesFigure } from '../shelf/kinds'
import { money } from '../../session/units'
import { useHouse } from '../house/store'
import { useSession } from '../../session/session'
import PickField from '../../fields/PickField.vue'
import QuantityField from '../../fields/QuantityField.vue'
import SendToJob from './SendToJob.vue'
import WorkingDetails from '../../fields/WorkingDetails.vue'

/** Any statement of an amount in all the others, what an area takes, and the notch that leaves it. */
const props = defineProps<{ id: string; sheet: Product; hardener?: string; film: number }>()
const session = useSession()
const house = useHouse()
void house.load()
const currency = computed(() => house.house.currency ?? (session.units === 'us' ? 'USD' : 'EUR'))
type Basis = Coat['amount']['basis']
const names = Object.fromEntries(Object.entries(amountWords).map(([k, b]) => [k, b.words]))
const USUAL_AREA = 10
const USUAL_LOSS = 0.05
const USUAL_NOTCH = 2
const basis = ref<Basis>('wet-film')
const value = ref(props.film)
const area = ref(USUAL_AREA)
const figure = ref<Coat['amount']['figure']>()
const amount = computed(() => ({ basis: basis.value, value: value.value, figure: figure.value }))
const loss = ref(props.sheet.loss?.value ?? USUAL_LOSS)
const notch = ref(USUAL_NOTCH)
const answer = ref<SpreadAnswer | null>(null)
const { trouble, newest } = useRequest()

async function work(): Promise<void> {
  const told = await newest(
    api.POST('/api/bench/{id}/spread', {
      params: { path: { id: props.id } },
      body: {
        hardener: props.hardener,
        amount: amount.value,
        area: area.value,
        loss: { value: loss.value, source: 'own-test' },
        notch: notch.value === USUAL_NOTCH ? undefined : notch.value,
      },
    }),
    'This cannot be calculated.',
    'The server does not answer. These figures may be out of date.',
  )
  answer.value = told?.data ?? answer.value
}
const soon = useThrottleFn(work, 60, true)
watch([amount, area, loss, notch, () => props.hardener, () => props.id], () => void soon(), {
  immediate: true,
})
const others = computed(() => {
  const a = answer.value
  return a
    ? [
        { basis: 'wet-film' as Basis, si: a.wet },
        { basis: 'dry-film' as Basis, si: a.dry },
        { basis: 'spread' as Basis, si: a.takes },
        { basis: 'mass-per-area' as Basis, si: a.coverage },
      ].filter((o) => o.basis !== basis.value)
    : []
})
/** Another basis keeps what is taken or else the film. */
function rebase(to: string): void {
  const same = others.value.find((o) => o.basis === to)
  basis.value = to as Basis
  figure.value = undefined
  if (same) value.value = same.si
}
function coat(surface: Surface): void {
  surface.coats.push({
    id: crypto.randomUUID(),
    product: props.id,
    hardener: props.hardener,
    amount: amount.value,
    loss: isPractical(amount.value) ? undefined : { value: loss.value, source: 'own-test' },
  })
}
</script>

<template>
  <section data-test="spread-tool">
    <h2>Spread and notch</h2>
    <div class="pair">
      <PickField label="Stated as" :model-value="basis" :options="names" @update:model-value="rebase" />
      <QuantityField v-model="value" :kind="amountWords[basis].kind" label="Amount on the bench" positive />
      <QuantityField v-model="area" kind="area" label="Area on the bench" positive />
      <PickField
        v-if="takesFigure(basis)"
        label="Figure on the bench"
        :model-value="isPractical(amount) ? 'practical' : 'theoretical'"
        :options="figureWords"
        :told="isPractical(amount) ? 'loss, profile and edges are in it' : 'the film alone'"
        open
        @update:model-value="figure = $event as Coat['amount']['figure']"
      />
      <QuantityField v-if="!isPractical(amount)" v-model="loss" kind="fraction" label="Loss on the bench" />
      <QuantityField
        v-model="notch"
        kind="number"
        label="Notch over film"
        told="how many times the wet film; about 2, common practice"
        positive
      />
    </div>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <template v-if="answer">
      <p class="told">
        <span v-for="o in others" :key="o.basis"
          ><span class="quiet">{{
            o.basis === 'spread' ? 'practical spread' : amountWords[o.basis].words
          }}</span>
          <b>{{ session.format(amountWords[o.basis].kind, o.si) }}</b></span
        >
        <span
          ><span class="quiet">notch</span>
          <b data-test="notch">{{ session.format('film', answer.notch) }}</b></span
        >
      </p>
      <p>
        {{ session.format('area', area) }} take
        <b data-test="spread-need">{{ session.format('volume', answer.need) }}</b>
        = {{ session.format('mass', answer.needMass)
        }}<template v-if="answer.purchase"
          >: {{ answer.purchase.lines.map((l) => `${l.count} × ${l.kit}`).join(' + ')
          }}<template v-if="answer.purchase.cost !== undefined"
            >, {{ money(answer.purchase.cost, currency) }}</template
          >, {{ session.format('volume', answer.purchase.leftover) }} left over</template
        >.
      </p>
      <p v-for="n in answer.notes" :key="n" class="small">{{ n }}</p>
      <WorkingDetails :workings="answer.workings" />
      <SendToJob what="coat" :sheet="sheet" :coat="coat" />
    </template>
  </section>
</template>

<style scoped>
h2 {
  font-size: 1.05rem;
  margin: 14px 0 12px;
}
.told .quiet {
  margin-right: 6px;
}
.told {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  margin: 8px 0;
}
</style>
