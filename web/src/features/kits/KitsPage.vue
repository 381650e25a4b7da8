<script setup lang="ts">
import { computed } from 'vue'
import type { RouteLocationRaw } from 'vue-router'
import type { Purchase } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { money } from '../../session/units'
import { useSession } from '../../session/session'
import FigureButton from '../../fields/FigureButton.vue'
import FindingList from '../job/FindingList.vue'
import KitChoices from './KitChoices.vue'
import MediaTable from './MediaTable.vue'
import SuppliesTable from './SuppliesTable.vue'
import StockPicks from './StockPicks.vue'

const desk = useDesk()
const session = useSession()
const currency = computed(() => desk.file.value.job.currency)

/** The film each coat of a product reaches if all that was bought is used. */
function reached(product: string, hardener: string | undefined): { key: string; words: string }[] {
  const most = desk.file.value.products.find((p) => p.id === product)?.filmMax?.value ?? Infinity
  return desk.plan.value.surfaces.flatMap((s) =>
    s.coats
      .filter((c) => c.product === product && c.hardener === hardener && c.build && c.reached)
      .map((c) => ({
        key: c.id,
        words: `${s.name}, coat ${c.number}: ${session.format('film', c.reached ?? 0)} (planned ${session.format('film', c.build?.wet ?? 0)})${(c.reached ?? 0) > most ? '; over its limit, so keep the rest' : ''}`,
      })),
  )
}

/** What the job costs beside its kits, and what of that has no price. */
const beside = computed(() => {
  const l = desk.plan.value.line
  const lacking = l.lacking > 0 ? ` (${session.format('count', l.lacking)} without a price)` : ''
  return [
    l.others > 0 || l.lacking > 0 ? `other materials ${money(l.others, currency.value)}${lacking}` : '',
    l.labour === undefined ? '' : `work ${money(l.labour, currency.value)}`,
  ]
    .filter(Boolean)
    .join(' · ')
})

/** A leftover as the stock takes it. */
function back(b: Purchase): RouteLocationRaw {
  return {
    path: '/stock',
    query: { sheet: b.product, hardener: b.hardener, volume: b.leftover, from: desk.file.value.job.name },
  }
}
</script>

<template>
  <section id="kits" class="panel" aria-labelledby="kits-title">
    <div class="row mb-3">
      <h2 id="kits-title" class="grow">Kits to buy for the whole job</h2>
      <span v-if="desk.plan.value.cost !== undefined" class="figure" data-test="total-cost">{{
        money(desk.plan.value.cost, currency)
      }}</span>
      <span class="small" data-test="other-costs">{{ beside }}</span>
    </div>
    <FindingList :findings="desk.findings('kits')" />
    <p v-if="desk.plan.value.purchases.length === 0" class="quiet">
      Once a measured surface has a coat, the kits to buy appear here.
    </p>
    <div v-else class="scroll" tabindex="0" role="region" aria-label="Kits to buy">
      <table class="figures">
        <thead>
          <tr>
            <th>Product</th>
            <th class="num">Need</th>
            <th>Buy</th>
            <th class="num">At hand</th>
            <th class="num">Left over</th>
            <th>Margin</th>
            <th>Wet film if all of it is used</th>
            <th v-if="session.seesPrices" class="num">Cost</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="b in desk.plan.value.purchases"
            :key="b.product + (b.hardener ?? '')"
            :data-test="`kit-${b.product}`"
          >
            <td>
              <svg class="chip" aria-hidden="true"><rect width="14" height="14" :fill="b.color" /></svg
              >{{ b.name }}
            </td>
            <td class="num">
              {{ session.format('volume', b.need) }}<br /><span class="quiet small">{{
                session.format('mass', b.needMass)
              }}</span>
            </td>
            <td>
              <FigureButton :workings="b.workings">
                <span v-for="l in b.lines" :key="l.kit" class="line">{{ l.count }} × {{ l.kit }}</span>
                <span v-if="b.lines.length === 0" class="line">nothing</span>
              </FigureButton>
              <span v-for="h in b.stock ?? []" :key="h.container" class="line small quiet">
                {{ session.format('volume', h.volume) }} from stock{{ h.lot ? `, lot ${h.lot}` : '' }}
              </span>
            </td>
            <td class="num">{{ session.format('volume', b.bought) }}</td>
            <td class="num">
              {{ session.format('volume', b.leftover) }}
              <router-link v-if="session.mayEdit && b.leftover > 0" class="small line" :to="back(b)"
                >into stock</router-link
              >
            </td>
            <td class="tell">
              <svg class="margin" viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
                <rect width="100" height="10" class="track" />
                <rect
                  :width="Math.min(100, b.margin * 200)"
                  height="10"
                  :class="{ tight: b.margin < 0.02 }"
                  class="fill"
                />
              </svg>
              <span class="figure">{{ session.format('fraction', b.margin) }}</span>
            </td>
            <td class="small">
              <span v-for="r in reached(b.product, b.hardener)" :key="r.key" class="line">{{ r.words }}</span>
            </td>
            <td v-if="session.seesPrices" class="num">
              {{ b.cost === undefined ? 'no price' : money(b.cost, currency) }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <KitChoices
      v-for="b in desk.plan.value.purchases"
      :key="`ways-${b.product}${b.hardener ?? ''}`"
      :purchase="b"
    />
    <StockPicks v-if="session.mayEdit" :job-id="desk.jobId" />
    <MediaTable />
    <SuppliesTable />
  </section>
</template>

<style scoped>
.tell {
  white-space: nowrap;
}
.line {
  display: block;
}
.open-figure .line {
  white-space: nowrap;
}
.margin {
  width: 60px;
  height: 10px;
  margin-right: 6px;
  vertical-align: -1px;
}
.track {
  fill: var(--faint);
}
.fill {
  fill: var(--cure);
}
.fill.tight {
  fill: var(--warn);
}
</style>
