<script setup lang="ts">
import { computed } from 'vue'
import type { Card } from '../../api/client'
import { leftTime } from '../../fields/clock'
import { useSession } from '../../session/session'

/** The colours of a batch: what goes into each cup, and what each piece gets of it. */
const props = defineProps<{ card: Card; poured?: Record<number, string> }>()
const session = useSession()
const cups = computed(() => props.card.cups ?? [])
const turns = computed(() => props.card.turns ?? [])
const pieces = computed(() => cups.value[0]?.pours.map((p) => p.piece) ?? [])
const before = computed(() => cups.value.some((c) => c.a))
</script>

<template>
  <div class="cups" data-test="cups">
    <table>
      <thead>
        <tr>
          <th>Cup</th>
          <th>Mix</th>
          <th v-if="before">A, then B</th>
          <th>Pigment</th>
          <th v-for="p in pieces" :key="p">{{ p }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(c, i) in cups" :key="i" :class="{ poured: poured?.[i + 1] }">
          <th scope="row">
            <svg class="chip" aria-hidden="true"><rect width="14" height="14" :fill="c.color" /></svg>
            {{ i + 1 }} {{ c.name }}<span v-if="poured?.[i + 1]" class="small where">poured</span
            ><span v-if="c.where" class="small where">{{ c.where }}</span>
          </th>
          <td>
            <b>{{ session.format('volume', c.volume) }}</b> {{ session.format('mass', c.mass) }}
          </td>
          <td v-if="before">
            {{ session.format('mass', c.a ?? 0) }} + {{ session.format('mass', c.b ?? 0) }}
          </td>
          <td>{{ c.pigment ? session.format('mass', c.pigment) : 'clear' }}</td>
          <td v-for="p in c.pours" :key="p.piece">{{ session.format('volume', p.volume) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="turns.length > 0" class="turns">
      After mixing start:
      <span v-for="t in turns" :key="t.piece"
        ><b>{{ t.piece }}</b> {{ leftTime(t.from) }} – {{ leftTime(t.until) }}</span
      >
    </p>
  </div>
</template>

<style scoped>
.cups {
  padding: 6px 22px 0;
  overflow-x: auto;
}
.poured {
  color: var(--quiet);
}
.poured b {
  font-weight: inherit;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  padding: 2px 14px 2px 0;
  border-bottom: 1px solid var(--line);
  font-size: 1.15rem;
  white-space: nowrap;
}
thead th {
  font-size: 1rem;
  font-weight: 560;
}
.where {
  margin-left: 10px;
  font-weight: 500;
}
.turns {
  margin: 6px 0 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 24px;
  font-size: 1.15rem;
}
@media print {
  th,
  td,
  .turns {
    font-size: 0.98rem;
    padding-block: 0;
  }
  .cups {
    overflow: visible;
  }
  th,
  td {
    white-space: normal;
    padding-right: 8px;
  }
}
</style>
