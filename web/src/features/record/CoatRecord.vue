<script setup lang="ts">
import { computed } from 'vue'
import type { RecordCoat, RecordCoatDay } from '../../api/client'
import { dayTime, minuteTime } from '../../fields/clock'
import { useSession } from '../people/session'

/** A coat's batches, gates and times, as they were. */
const props = defineProps<{ coat: RecordCoatDay; plan: RecordCoat; zone?: string }>()
const session = useSession()
const time = (at: string | undefined): string => (at ? minuteTime(at, props.zone) : '–')
const lines = computed(() =>
  props.coat.batches.map((b) => ({
    ...b,
    mass:
      b.masses?.reduce((sum, m) => sum + m, 0) ??
      props.plan.batches.find((p) => p.number === b.number)?.card.mass ??
      0,
  })),
)
const over = computed(() => props.coat.gates.filter((g) => g.overridden || !g.closed))
const service = computed(() => props.coat.stages.filter((s) => s.promised || s.comes))
</script>

<template>
  <table class="figures">
    <thead>
      <tr>
        <th>Batch</th>
        <th>Met</th>
        <th>Mixed</th>
        <th>Poured</th>
        <th>Done</th>
        <th>Use by</th>
        <th>Mass</th>
        <th>Ratio</th>
        <th>Film</th>
        <th>Lots</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="b in lines" :id="`${coat.id}-${b.number}`" :key="b.number">
        <td>
          {{ b.number }}<template v-if="b.attempt > 1"> (pail {{ b.attempt }})</template>
        </td>
        <td>{{ time(b.meets) }}</td>
        <td>{{ time(b.mixed) }}</td>
        <td>{{ time(b.poured) }}</td>
        <td>{{ time(b.rolled) }}</td>
        <td>{{ time(b.useBy) }}{{ b.beyond ? ' (beyond the sheet)' : '' }}</td>
        <td>{{ session.format('mass', b.mass) }}{{ b.masses ? '' : ' planned' }}</td>
        <td :class="b.ratio?.verdict">
          {{ b.ratio ? `${b.ratio.verdict}, ${(b.ratio.off * 100).toFixed(1)} %` : '–' }}
        </td>
        <td>{{ b.films.map((f) => session.format('film', f.film)).join(', ') || '–' }}</td>
        <td>{{ b.lots?.filter(Boolean).join(', ') || '–' }}</td>
      </tr>
    </tbody>
  </table>
  <p>
    Used {{ session.format('mass', coat.used.mass)
    }}<template v-if="coat.used.film"
      >, {{ session.format('film', coat.used.film) }} wet over its sections;
      {{ session.format('film', plan.wet) }} were planned</template
    >.
    <template v-if="coat.used.lost">Lost {{ session.format('mass', coat.used.lost) }}.</template>
    <template v-if="coat.paced">The floor took {{ coat.pace.toFixed(2) }} × the planned time.</template>
  </p>
  <ul v-if="over.length">
    <li v-for="g in over" :key="g.key">
      Gate “{{ g.title }}”: {{ g.overridden ? `overridden by ${g.by}: ${g.what}` : 'left open' }}
    </li>
  </ul>
  <p v-if="service.length" data-test="service">
    <template v-for="(s, i) in service" :key="s.stage"
      >{{ i ? '; ' : '' }}{{ s.name }}: <b>{{ s.comes ? dayTime(s.comes, zone) : 'not yet' }}</b><template
        v-if="s.promised"
        >, promised {{ dayTime(s.promised, zone) }}</template
      ></template
    >.
  </p>
</template>

<style scoped>
.spoilt {
  color: var(--stop);
  font-weight: 680;
}
.doubtful {
  color: var(--warn);
  font-weight: 680;
}
</style>
