<script setup lang="ts">
import { computed } from 'vue'
import type { CoatPlan, Section } from '../../api/client'
import { useSession } from '../../session/session'

/** Sections of a surface that is worked wall by wall or piece by piece. */
const props = defineProps<{ coat: CoatPlan }>()
const session = useSession()
type Span = NonNullable<Section['spans']>[number]
const FEW = 5

function words(s: Span): string {
  if (s.whole || s.to <= s.from)
    return s.whole ? s.name : `part of ${s.name} (${session.format('area', s.area)})`
  return `${s.name} from ${session.format('length', s.from)} to ${session.format('length', s.to)}`
}
function lifted(s: Span): string {
  return s.lifts ? `${words(s)}, in ${s.lifts} bands` : words(s)
}
/** A long run of whole panels is told by its first and last. */
function brief(spans: Span[]): string[] {
  if (spans.length <= FEW) return spans.map(lifted)
  const inner = spans.slice(1, -1)
  const first = spans[0]
  const last = spans.at(-1)
  const on =
    inner.length === 1
      ? (inner[0]?.name ?? '')
      : `${inner.length} panels on: ${inner[0]?.name} to ${inner.at(-1)?.name}`
  return [...(first ? [words(first)] : []), on, ...(last ? [words(last)] : [])]
}
const rows = computed(() => (props.coat.sections ?? []).map((s) => ({ ...s, covers: brief(s.spans ?? []) })))
</script>

<template>
  <table class="figures" data-test="spans">
    <caption class="small quiet">
      Each batch, in working order
    </caption>
    <thead>
      <tr>
        <th>Section</th>
        <th>Covers</th>
        <th class="num">Area</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="s in rows" :key="s.number">
        <th scope="row">
          <svg class="chip" aria-hidden="true"><rect width="14" height="14" :fill="coat.color" /></svg
          >{{ s.number }}
        </th>
        <td>
          <span v-for="(c, i) in s.covers" :key="i" class="covers">{{ c }}</span>
          <span v-for="b in s.beads ?? []" :key="b.name" class="covers small quiet"
            >{{ session.format('volume', b.volume) }} {{ b.narrow ? 'of it into the strip of' : 'over' }}
            {{ b.name }}</span
          >
        </td>
        <td class="num">{{ session.format('area', s.area + s.parts) }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
th[scope='row'] {
  vertical-align: top;
  white-space: nowrap;
}
.covers {
  display: block;
}
caption {
  text-align: left;
  padding-bottom: 4px;
}
</style>
