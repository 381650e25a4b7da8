<script setup lang="ts">
import { computed } from 'vue'
import type { Card } from '../../api/client'
import { clockTime, minuteTime } from '../../fields/clock'
import { useSession } from '../../session/session'

/** Batches that are mixed alike: a row for each, with what is its own. */
const props = defineProps<{ cards: Card[]; zone?: string }>()
const session = useSession()
/** What the section of every one of them needs stands above; what only one needs stands in its row. */
const rows = computed(() =>
  props.cards.map((c) => ({
    card: c,
    own: c.floor.filter((s) => !props.cards.every((o) => o.floor.some((f) => f.text === s.text))),
  })),
)
const timed = computed(() => props.cards.some((c) => c.meets))
</script>

<template>
  <table class="figures rows" data-test="pail-rows">
    <thead>
      <tr>
        <th>Batch</th>
        <th>Section</th>
        <th>{{ timed ? 'Mixing start, planned' : 'Mixing started at' }}</th>
        <th v-if="timed">Started</th>
        <th v-if="timed">Use by</th>
        <th>On the floor</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in rows" :key="r.card.batch">
        <th scope="row">{{ r.card.batch }}</th>
        <td>{{ r.card.section }}: {{ session.format('area', r.card.area) }}</td>
        <td>{{ r.card.meets ? clockTime(r.card.meets, zone) : ' ' }}</td>
        <td v-if="timed" class="blank">&nbsp;</td>
        <td v-if="timed">{{ r.card.useBy ? minuteTime(r.card.useBy, zone) : '–' }}</td>
        <td class="own">{{ r.own.map((s) => s.text).join(' ') || '–' }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.rows {
  width: calc(100% - 44px);
  margin: 0 22px 8px;
  font-size: 1.2rem;
}
.rows thead th {
  font-size: 1rem;
}
.rows th[scope] {
  font-size: 1.5rem;
  font-weight: 760;
  line-height: 1;
  color: var(--ink);
}
.rows td {
  padding-block: 4px;
}
.rows td {
  white-space: nowrap;
}
.rows .own {
  white-space: normal;
}
.blank {
  min-width: 90px;
}
@media screen and (max-width: 900px) {
  .rows {
    display: block;
    overflow-x: auto;
    font-size: 1rem;
  }
}
</style>
