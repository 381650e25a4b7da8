<script setup lang="ts">
import { computed } from 'vue'
import type { RecordCoat, RecordCoatDay, RecordKind } from '../../api/client'
import { dayTime, minuteTime } from '../../fields/clock'
import { kindWords } from '../jobday/words'
import { useSession } from '../../session/session'
import FoldPanel from '../../fields/FoldPanel.vue'

/** A coat's batches, gates and times, as they were. */
const props = defineProps<{ coat: RecordCoatDay; plan: RecordCoat; zone?: string }>()
const emit = defineEmits<{ give: [stage: string] }>()
const session = useSession()
/** What a surface is given for. */
const uses: string[] = ['foot', 'furniture', 'vehicle', 'water', 'full']
const time = (at: string | undefined): string => (at ? minuteTime(at, props.zone) : '–')
/** When a step was done: as logged, else about when entries of other batches show it. */
const step = (logged: string | undefined, shown: string | undefined): string =>
  logged || !shown ? time(logged) : `about ${time(shown)}`
const lines = computed(() =>
  props.coat.batches.map((b) => ({
    ...b,
    mass:
      b.masses?.reduce((sum, m) => sum + m, 0) ??
      props.plan.batches.find((p) => p.number === b.number)?.card.mass ??
      0,
  })),
)
/** The touches that were told of later than they happened. */
const told = computed(() =>
  props.coat.batches.flatMap((b) =>
    (Object.entries(b.told) as [RecordKind, number][]).map(
      ([kind, late]) =>
        `batch ${b.number}, “${kindWords[kind]}”, ${session.format('span', late)} after it happened`,
    ),
  ),
)
const over = computed(() => props.coat.gates.filter((g) => g.overridden || !g.closed))
const service = computed(() => props.coat.stages.filter((s) => s.promised || s.comes))
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Batches">
    <table class="figures">
      <thead>
        <tr>
          <th>Batch</th>
          <th>Mixing started</th>
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
          <td>{{ step(b.poured, b.shown?.poured) }}</td>
          <td>{{ step(b.rolled, b.shown?.rolled) }}</td>
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
  </div>
  <p>
    Used {{ session.format('mass', coat.used.mass)
    }}<template v-if="coat.used.film"
      >, {{ session.format('film', coat.used.film) }} wet over its sections;
      {{ session.format('film', plan.wet) }} were planned</template
    >.
    <template v-if="coat.used.lost">Lost {{ session.format('mass', coat.used.lost) }}.</template>
    <template v-if="coat.paced">Actual / planned time {{ coat.pace.toFixed(2) }}.</template>
  </p>
  <p v-if="coat.batches.some((b) => b.shown)" data-test="shown">
    “About”: not logged; entries of other batches show that it was done.
  </p>
  <p v-if="told.length" data-test="told-later">Logged later: {{ told.join('; ') }}.</p>
  <FoldPanel :open="over.length > 0">
    <template #title
      >Gates: {{ over.length > 0 ? `${over.length} overridden or open` : 'all closed' }}</template
    >
    <ul>
      <li v-for="g in coat.gates" :key="g.key">
        {{ g.title }}:
        {{
          g.overridden
            ? `overridden by ${g.by}: ${g.what}`
            : g.closed
              ? `${g.what}, ${g.by}, ${time(g.at)}`
              : 'left open'
        }}
      </li>
    </ul>
  </FoldPanel>
  <div v-if="service.length" class="scroll" tabindex="0" role="region" aria-label="Return to service">
    <table class="figures" data-test="service">
      <thead>
        <tr>
          <th>Use</th>
          <th>Promised</th>
          <th>At measured slab temperature</th>
          <th>Released</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in service" :key="s.stage">
          <td>{{ s.name }}</td>
          <td>{{ s.promised ? dayTime(s.promised, zone) : '–' }}</td>
          <td>
            {{ s.comes ? dayTime(s.comes, zone) : 'not yet' }}{{ s.outside ? ' (beyond the sheet)' : '' }}
          </td>
          <td>
            <template v-if="s.given">{{ dayTime(s.given, zone) }}, {{ s.by }}</template>
            <v-btn
              v-else-if="session.mayLead && plan.last && s.comes && uses.includes(s.stage)"
              size="small"
              :data-test="`release-${s.stage}`"
              :aria-label="`Release for use: ${s.name}`"
              @click="emit('give', s.stage)"
              >Release for use</v-btn
            >
          </td>
        </tr>
      </tbody>
    </table>
  </div>
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
