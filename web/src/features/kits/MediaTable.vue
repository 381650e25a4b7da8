<script setup lang="ts">
import { useDesk } from '../job/useEditor'
import { sourceWords } from '../../fields/sources'
import { money } from '../../session/units'
import { useSession } from '../../session/session'
import FoldPanel from '../../fields/FoldPanel.vue'

/** Broadcast, pigment, grit and thinner to buy, and the tools and consumables. */
const desk = useDesk()
const session = useSession()
</script>

<template>
  <div
    v-if="desk.plan.value.media.length > 0"
    class="scroll"
    tabindex="0"
    role="region"
    aria-label="Media to buy"
  >
    <table class="figures" data-test="media">
      <thead>
        <tr>
          <th>Medium</th>
          <th class="num">Need</th>
          <th class="num">of it spare or lost</th>
          <th>Buy</th>
          <th v-if="session.seesPrices" class="num">Cost</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="m in desk.plan.value.media" :key="m.medium + m.name">
          <td>{{ m.name }}</td>
          <td class="num">
            {{ session.amount(m) }}
          </td>
          <td class="num">{{ m.spare ? session.format('mass', m.spare) : '—' }}</td>
          <td>
            {{
              m.lines.map((l) => `${l.count} × ${l.pack}`).join(', ') ||
              (m.stock ? 'from stock' : m.mass || m.volume ? 'no pack known' : 'enter what stays at the coat')
            }}
            <span v-if="m.stock" class="quiet small">{{ session.format('mass', m.stock) }} in stock</span>
          </td>
          <td v-if="session.seesPrices" class="num">
            {{ m.cost === undefined ? '—' : money(m.cost, desk.file.value.job.currency) }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <FoldPanel v-if="desk.plan.value.tools.length > 0" class="mt-3" data-test="tools">
    <template #title>Tools and consumables, {{ desk.plan.value.tools.length }} lines</template>
    <div class="scroll" tabindex="0" role="region" aria-label="Tools and consumables">
      <table class="figures">
        <thead>
          <tr>
            <th>Item</th>
            <th class="num">Quantity</th>
            <th>Basis</th>
            <th></th>
            <th v-if="session.seesPrices" class="num">Cost</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in desk.plan.value.tools" :key="t.id">
            <td>{{ t.name }}</td>
            <td class="num">{{ t.packs }} × {{ t.pack }}</td>
            <td class="small">{{ t.why }}</td>
            <td class="quiet small">{{ sourceWords[t.source] }}</td>
            <td v-if="session.seesPrices" class="num">
              {{ t.cost === undefined ? '—' : money(t.cost, desk.file.value.job.currency) }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </FoldPanel>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
  margin-top: 14px;
}
</style>
