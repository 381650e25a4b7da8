<script setup lang="ts">
import { computed } from 'vue'
import type { PourPlan } from '../../api/client'
import { useSession } from '../../session/session'
import { limits } from './words'

/** Each batch by the clock: when it is mixed, poured, joined and done, and by when at the latest. */
const props = defineProps<{ pour: PourPlan; told: (s: number) => string; at?: number }>()
const session = useSession()
const rows = computed(() =>
  (props.pour.run.passages ?? []).map((p) => {
    const batch = props.pour.batches[p.batch - 1]
    const by = (part: string): string =>
      (props.pour.run.parts ?? [])
        .filter((s) => s.batch === p.batch && s.act === part)
        .map((s) => props.pour.crew[s.person]?.name ?? '')
        .filter((name, i, all) => all.indexOf(name) === i)
        .join(', ')
    return {
      ...p,
      mass: batch?.mass ?? 0,
      useBy: batch?.life ? p.meets + batch.life : undefined,
      joinBy: p.joined !== undefined && p.join !== undefined ? p.joined + p.join : undefined,
      mixer: by('mix'),
      present: props.at !== undefined && props.at >= p.meets && props.at < p.done,
    }
  }),
)
const tight = computed(() =>
  props.pour.run.moments.map(
    (m) =>
      `${props.told(m.at)} batch ${m.batch}: ${session.format('span', Math.abs(m.slack))} ${m.slack < 0 ? 'too late for' : 'left of'} the ${limits[m.limit]}`,
  ),
)
</script>

<template>
  <div>
    <div class="scroll">
      <table class="figures" data-test="running">
        <thead>
          <tr>
            <th>Batch</th>
            <th>Start mixing</th>
            <th class="aside">Mixed by</th>
            <th>Poured</th>
            <th>Use by</th>
            <th>Joined</th>
            <th class="aside">at the latest</th>
            <th>Done</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.batch" :class="{ present: r.present }">
            <td>
              <strong>{{ r.batch }}</strong> <span class="quiet">{{ session.format('mass', r.mass) }}</span>
            </td>
            <td class="figure">{{ told(r.meets) }}</td>
            <td class="aside">{{ r.mixer }}</td>
            <td class="figure">{{ told(r.pour) }}</td>
            <td class="figure">{{ r.useBy === undefined ? '' : told(r.useBy) }}</td>
            <td class="figure">{{ r.joined === undefined ? '' : told(r.joined) }}</td>
            <td class="aside">{{ r.joinBy === undefined ? '' : told(r.joinBy) }}</td>
            <td class="figure">{{ told(r.done) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <ul class="small tight">
      <li v-for="t in tight" :key="t">{{ t }}</li>
    </ul>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.present td {
  background: color-mix(in srgb, var(--cure) 14%, var(--paper));
}
.tight {
  padding-left: 18px;
  margin: 8px 0 0;
}
@media screen and (max-width: 600px) {
  .aside {
    display: none;
  }
}
@media print {
  .figures th,
  .figures td {
    padding-block: 0;
    font-size: 12px;
    line-height: 1.25;
  }
}
</style>
