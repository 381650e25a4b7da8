<script setup lang="ts">
import { computed } from 'vue'
import type { Purchase, Trade } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { money } from '../../session/units'
import { useSession } from '../../session/session'
import FoldPanel from '../../fields/FoldPanel.vue'

/** Ways to buy one product: what each costs against what it leaves. */
const props = defineProps<{ purchase: Purchase }>()
const desk = useDesk()
const session = useSession()
const currency = computed(() => desk.file.value.job.currency)
const choices = computed(() => props.purchase.choices ?? [])
const most = computed(() => Math.max(...choices.value.map((c) => c.leftover), 1e-9))
const dearest = computed(() => Math.max(...choices.value.map((c) => c.cost ?? 0), 1))

function words(t: Trade): string {
  if (t.within) return `at most ${session.format('volume', t.within)} left over`
  const least = t.least === 'cost' ? 'least cost' : 'least left over'
  return t.margin ? `${least}, ${session.format('fraction', t.margin)} above the need` : least
}
function take(t: Trade): void {
  const { product, hardener } = props.purchase
  desk.editor.edit(`kits of ${product}`, (f) => {
    const others = (f.job.buying ?? []).filter((w) => w.product !== product || w.hardener !== hardener)
    const usual = t.least === 'cost' && !t.margin && !t.within
    const { least, margin, within } = t
    const next = usual ? others : [...others, { product, hardener, least, margin, within }]
    f.job.buying = next.length > 0 ? next : undefined
  })
}
</script>

<template>
  <FoldPanel v-if="choices.length > 0" class="small" :data-test="`choices-${purchase.product}`">
    <template #title
      >{{ purchase.name }}: {{ choices.length }} ways to buy, cost against what is left</template
    >
    <table class="figures">
      <thead>
        <tr>
          <th>Kits</th>
          <th>Cost</th>
          <th>Left over</th>
          <th>Chosen for</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(t, i) in choices" :key="i" :class="{ chosen: t.chosen }">
          <td>{{ t.lines.map((l) => `${l.count} × ${l.kit}`).join(' + ') || 'nothing' }}</td>
          <td>
            <svg class="bar" viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
              <rect :width="((t.cost ?? 0) / dearest) * 100" height="10" class="cost" />
            </svg>
            {{ t.cost === undefined ? 'no price' : money(t.cost, currency) }}
          </td>
          <td>
            <svg class="bar" viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
              <rect :width="(t.leftover / most) * 100" height="10" class="left" />
            </svg>
            {{ session.format('volume', t.leftover) }}
          </td>
          <td>{{ words(t) }}</td>
          <td>
            <b v-if="t.chosen">bought</b>
            <v-btn v-else-if="session.mayEdit" size="small" variant="text" @click="take(t)">Buy this</v-btn>
          </td>
        </tr>
      </tbody>
    </table>
  </FoldPanel>
</template>

<style scoped>
.bar {
  width: 70px;
  height: 10px;
  margin-right: 8px;
  vertical-align: -1px;
}
.cost {
  fill: var(--ink);
}
.left {
  fill: var(--cure);
}
.chosen td {
  background: color-mix(in srgb, var(--cure) 10%, transparent);
}
</style>
