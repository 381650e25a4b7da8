<script setup lang="ts">
import { computed } from 'vue'
import type { Working } from '../../api/client'
import { useSession } from '../../session/session'

/** The pieces of a surface with their measures, close enough for one printed page. */
const props = defineProps<{ workings: Working[]; total?: Working['result'] }>()
const session = useSession()
const MOST = 64
const MANY = 12
const formulas = computed(() => [...new Set(props.workings.map((w) => w.formula))])
const LETTERS = 'abcdefghijklmnopqrstuvwxyz'
const rows = computed(() =>
  props.workings.slice(0, MOST).map((w) => ({
    title: w.title,
    letter: LETTERS[formulas.value.indexOf(w.formula)] ?? '',
    inputs: w.inputs.map((i) => session.format(i.kind, i.si)).join(' · '),
    result: session.format(w.result.kind, w.result.si),
  })),
)
</script>

<template>
  <div class="pieces">
    <table class="figures" :class="{ many: rows.length > MANY }">
      <thead>
        <tr>
          <th>Piece</th>
          <th>by</th>
          <th>from</th>
          <th class="num">Area</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in rows" :key="i">
          <td>{{ r.title }}</td>
          <td>{{ r.letter }}</td>
          <td>{{ r.inputs }}</td>
          <td class="num">{{ r.result }}</td>
        </tr>
        <tr v-if="total" class="total">
          <td colspan="3">{{ total.name }}</td>
          <td class="num">{{ session.format(total.kind, total.si) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="workings.length > MOST" class="small">
      The first {{ MOST }} of {{ workings.length }} pieces; the rest are on screen, behind the area.
    </p>
    <ol class="formulas">
      <li v-for="(f, i) in formulas" :key="f">
        <b>{{ LETTERS[i] }}</b> {{ f }}
      </li>
    </ol>
  </div>
</template>

<style scoped>
table {
  font-size: 0.82rem;
}
table.figures td {
  padding: 2px 8px 2px 0;
}
table.many {
  font-size: 13px;
}
table.many td {
  padding: 0 6px 0 0;
}
@media print {
  table,
  table.many {
    font-size: 11px;
    line-height: 1.25;
  }
  table.figures td {
    padding: 1px 6px 1px 0;
  }
  .formulas {
    font-size: 10px;
  }
}
.total {
  font-weight: 700;
}
.formulas {
  list-style: none;
  padding: 0;
  margin-top: 8px;
  font-size: 13px;
  line-height: 1.3;
}
</style>
