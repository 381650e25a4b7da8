<script setup lang="ts">
import { computed } from 'vue'
import type { SheetFact } from '../../api/client'
import { isWeak, sourceWords } from '../../fields/sources'
import { factText } from './kinds'
import { useSession } from '../../session/session'

/** The lines of several sheets, the same lines beside each other. */
const props = defineProps<{ columns: { name: string; facts: SheetFact[] }[] }>()
const session = useSession()
interface Cell {
  text: string
  weak: boolean
  source: string
}
const groups = computed(() => {
  const found = new Map<string, Map<string, Cell[]>>()
  props.columns.forEach((column, at) => {
    for (const f of column.facts) {
      const group = found.get(f.group) ?? new Map<string, Cell[]>()
      found.set(f.group, group)
      const row = group.get(f.name) ?? []
      group.set(f.name, row)
      row[at] = {
        text: factText(f, session.format),
        weak: f.source !== undefined && isWeak(f.source),
        source: f.source ? sourceWords[f.source] : '',
      }
    }
  })
  return [...found].map(([name, rows]) => ({
    name,
    rows: [...rows].map(([label, cells]) => ({
      label,
      cells: props.columns.map((_, i) => cells[i]),
      differs: new Set(props.columns.map((_, i) => cells[i]?.text ?? '')).size > 1,
    })),
  }))
})
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Figures of the sheet">
    <table class="figures facts-table">
      <thead>
        <tr>
          <th></th>
          <th v-for="c in columns" :key="c.name" scope="col">{{ c.name }}</th>
        </tr>
      </thead>
      <tbody v-for="g in groups" :key="g.name">
        <tr>
          <th :colspan="columns.length + 1" class="group" scope="rowgroup">{{ g.name }}</th>
        </tr>
        <tr v-for="r in g.rows" :key="r.label" :class="{ differs: r.differs }">
          <td>{{ r.label }}</td>
          <td v-for="(c, i) in r.cells" :key="i">
            <span v-tooltip="c?.source" :class="{ weak: c?.weak }">{{ c?.text ?? '—' }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.facts-table td:first-child {
  width: 15em;
}
.group {
  padding-top: 14px;
  text-align: left;
}
.differs {
  background: color-mix(in srgb, var(--cure) 12%, transparent);
}
.differs td:first-child::before {
  content: '≠ ';
  font-weight: 700;
}
</style>
