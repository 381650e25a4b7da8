<script setup lang="ts">
import type { RecordCoat, RecordCoatDay } from '../../api/client'
import { dayTime } from '../../fields/clock'
import { useSession } from '../../session/session'

/** Every coat of a job in one line: what was used, how long it took, and when it may first be used. */
defineProps<{ coats: { coat: RecordCoatDay; plan: RecordCoat }[]; zone?: string }>()
const session = useSession()
const footOf = (c: RecordCoatDay): RecordCoatDay['stages'][number] | undefined =>
  c.stages.find((s) => s.stage === 'foot' && (s.promised || s.comes))
const kept = (c: RecordCoatDay): number => c.batches.filter((b) => b.state === 'rolled').length
const overridden = (c: RecordCoatDay): number => c.gates.filter((g) => g.overridden).length
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Table of the coats">
    <table class="figures" data-test="coat-summary">
      <thead>
        <tr>
          <th>Coat</th>
          <th>State</th>
          <th>Batches</th>
          <th>Used</th>
          <th>Wet film (planned)</th>
          <th>Actual / planned time</th>
          <th>Gates overridden</th>
          <th>First use</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ coat, plan } in coats" :key="coat.id">
          <td>
            <router-link :to="{ hash: `#${coat.id}` }"
              >{{ coat.surface }}, coat {{ coat.number }}: {{ coat.name }}</router-link
            >
          </td>
          <td>{{ coat.done ? 'done' : coat.begun ? 'under way' : 'not started' }}</td>
          <td>{{ kept(coat) }} of {{ coat.batches.length }}</td>
          <td>
            {{ coat.begun ? session.format('mass', coat.used.mass) : '–'
            }}{{ coat.used.lost ? `, ${session.format('mass', coat.used.lost)} lost` : '' }}
          </td>
          <td>
            {{ coat.used.film ? session.format('film', coat.used.film) : '–' }} ({{
              session.format('film', plan.wet)
            }})
          </td>
          <td>{{ coat.paced ? coat.pace.toFixed(2) : '–' }}</td>
          <td>{{ overridden(coat) || '–' }}</td>
          <td>
            {{
              footOf(coat)?.comes
                ? dayTime(footOf(coat)?.comes ?? '', zone)
                : footOf(coat)?.promised
                  ? `${dayTime(footOf(coat)?.promised ?? '', zone)} (planned)`
                  : '–'
            }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
