<script setup lang="ts">
import type { Cut, Surface } from '../../api/client'
import { useSession } from '../../session/session'

const props = defineProps<{
  cuts: Cut[]
  surface: Surface
  pinned?: Set<number>
  /** Joins can be pinned. */
  pinnable?: boolean
}>()
defineEmits<{ pin: [after: number] }>()
const session = useSession()
type Mark = Cut['marks'][number]

function place(m: Mark): string {
  if (m.tape) return `the tape after section ${m.tape}`
  if (m.hole < 0) return `wall ${m.side}`
  return `${props.surface.floor.holes[m.hole]?.name ?? `hole ${m.hole + 1}`}, side ${m.side}`
}
/** The straight measure that tells whether a mark is where it should be. */
function check(cut: Cut, i: number): string {
  const other = cut.marks[i % 2 === 0 ? i + 1 : i - 1]
  const m = cut.marks[i]
  return m?.check && other ? `${session.format('length', m.check)} to ${from(other)}` : ''
}
function from(m: Mark): string {
  if (m.tape) return 'its first end'
  return m.hole < 0 ? `corner ${m.side}` : `its corner ${m.side}`
}
</script>

<template>
  <div class="scroll">
    <table class="figures" data-test="tape-marks">
      <caption class="small quiet">
        Setting out tape lines: measured along each wall from the corner named.
      </caption>
      <thead>
        <tr>
          <th>Between</th>
          <th>On</th>
          <th>From</th>
          <th class="num">Distance</th>
          <th class="num">Check diagonal</th>
          <th class="num">Wet edge</th>
        </tr>
      </thead>
      <tbody v-for="cut in cuts" :key="cut.after">
        <tr v-for="(m, i) in cut.marks" :key="i">
          <td>
            <strong v-if="i === 0">{{ cut.after }} | {{ cut.with.join(', ') }}</strong>
            <button
              v-if="i === 0 && pinnable"
              type="button"
              class="plain small pin"
              :aria-pressed="pinned?.has(cut.after) ?? false"
              :aria-label="`${pinned?.has(cut.after) ? 'Locked:' : 'Lock'} the joint after section ${cut.after}`"
              :data-test="`pin-${cut.after}`"
              @click="$emit('pin', cut.after)"
            >
              {{ pinned?.has(cut.after) ? 'Locked' : 'Lock' }}
            </button>
            <span v-if="i === 0 && cut.on" class="small quiet seam">on the {{ cut.on }}</span>
          </td>
          <td>{{ place(m) }}</td>
          <td>{{ from(m) }}</td>
          <td class="num figure">{{ session.format('length', m.along) }}</td>
          <td class="num quiet">{{ check(cut, i) }}</td>
          <td class="num quiet">{{ i === 0 ? session.format('length', cut.wet) : '' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.seam {
  display: block;
}
.pin {
  margin-left: 8px;
  text-decoration: underline;
}
.pin[aria-pressed='true'] {
  font-weight: 700;
}
@media print {
  td,
  th {
    padding-right: 8px;
    line-height: 1.25;
  }
  td.quiet {
    white-space: normal;
  }
}
caption {
  text-align: left;
  caption-side: top;
}
</style>
