<script setup lang="ts">
import type { RecordDay } from '../../api/client'
import { clockTime } from '../../fields/clock'
import { useSession } from '../../session/session'

/** What was read on the days of a job. */
defineProps<{ readings: RecordDay['readings']; zone?: string }>()
const session = useSession()
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Conditions">
    <table class="figures">
      <thead>
        <tr>
          <th>At</th>
          <th>Slab</th>
          <th>Air</th>
          <th>Humidity</th>
          <th>Above dew point</th>
          <th>By</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in readings" :key="r.event">
          <td>{{ clockTime(r.at, zone) }}</td>
          <td>{{ r.slab === undefined ? '' : session.format('temperature', r.slab) }}</td>
          <td>{{ r.air === undefined ? '' : session.format('temperature', r.air) }}</td>
          <td>{{ r.humidity === undefined ? '' : session.format('fraction', r.humidity) }}</td>
          <td>{{ r.margin === undefined ? '' : `${r.margin.toFixed(1)} K` }}</td>
          <td>{{ r.by }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
