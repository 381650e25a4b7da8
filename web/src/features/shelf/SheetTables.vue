<script setup lang="ts">
import { computed } from 'vue'
import type { SheetFact } from '../../api/client'
import { isWeak, sourceWords } from '../../fields/sources'
import { useSession } from '../../session/session'
import { factText } from './kinds'

/** The lines of one sheet by group; what is given at several temperatures has a column for each. */
const props = defineProps<{ facts: SheetFact[] }>()
const session = useSession()
interface Row {
  label: string
  cells: SheetFact[][]
  words: string
}
function grouped(facts: SheetFact[], by: (f: SheetFact) => string): [string, SheetFact[]][] {
  const found = new Map<string, SheetFact[]>()
  for (const f of facts) found.set(by(f), [...(found.get(by(f)) ?? []), f])
  return [...found]
}
const groups = computed(() =>
  grouped(props.facts, (f) => f.group).map(([name, facts]) => {
    const temperatures = [...new Set(facts.filter((f) => f.of).map((f) => f.at ?? 0))].sort((a, b) => a - b)
    const many = temperatures.length > 1
    const byTemperature = facts.filter((f) => many && f.of)
    const rows = grouped(byTemperature, (f) => f.of ?? '').map(([label, points]): Row => {
      // What all points share is said once, below their row.
      const words = new Set(points.map((p) => p.words ?? ''))
      return {
        label,
        // Pot lives of several masses stand at one temperature.
        cells: temperatures.map((t) => points.filter((p) => (p.at ?? 0) === t)),
        words: words.size === 1 ? (points[0]?.words ?? '') : '',
      }
    })
    return { name, temperatures, rows, single: facts.filter((f) => !byTemperature.includes(f)) }
  }),
)
/** Where a value is from, where that is not the sheet itself. */
function sourceOf(f: SheetFact): string {
  return f.source && f.source !== 'sheet' ? sourceWords[f.source] : ''
}
function cell(f: SheetFact, words: string): string {
  return factText(words ? { ...f, words: undefined } : f, session.format)
}
</script>

<template>
  <div>
    <p class="small quiet mb-2">Values are those of the data sheet unless a source is named.</p>
    <div class="groups">
      <section v-for="g in groups" :key="g.name">
        <h2>{{ g.name }}</h2>
        <table v-if="g.rows.length" class="figures">
          <thead>
            <tr>
              <th scope="col">at</th>
              <th v-for="t in g.temperatures" :key="t" scope="col">{{ session.format('temperature', t) }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in g.rows" :key="r.label">
              <td>
                {{ r.label }}<span v-if="r.words" class="small quiet words">{{ r.words }}</span>
              </td>
              <td v-for="(points, i) in r.cells" :key="i">
                <template v-if="points.length === 0">—</template>
                <span v-for="(c, k) in points" :key="k" class="point"
                  ><span :class="{ weak: c.source && isWeak(c.source) }">{{ cell(c, r.words) }}</span>
                  <span v-if="sourceOf(c)" class="small quiet">{{ sourceOf(c) }}</span></span
                >
              </td>
            </tr>
          </tbody>
        </table>
        <table v-if="g.single.length" class="figures plain">
          <tbody>
            <tr v-for="f in g.single" :key="f.name">
              <td>{{ f.name }}</td>
              <td>
                <span :class="{ weak: f.source && isWeak(f.source) }">{{ cell(f, '') }}</span>
              </td>
              <td class="quiet small source">{{ sourceOf(f) }}</td>
            </tr>
          </tbody>
        </table>
      </section>
    </div>
  </div>
</template>

<style scoped>
.groups {
  columns: 2 360px;
  column-gap: 28px;
}
section {
  break-inside: avoid;
  margin-bottom: 16px;
}
h2 {
  font-size: 1.05rem;
}
table {
  width: 100%;
}
table.figures td {
  padding-block: 3px;
}
td:not(:first-child) {
  white-space: nowrap;
}
table.plain td:not(:first-child) {
  white-space: normal;
}
.words,
.point + .point {
  display: block;
}
.source {
  text-align: right;
}
</style>
