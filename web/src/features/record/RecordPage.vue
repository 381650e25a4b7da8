<script setup lang="ts">
import { computed } from 'vue'
import { clockTime, dayTime, minuteTime } from '../../fields/clock'
import DayRibbons from '../../drawing/DayRibbons.vue'
import { useDay } from '../jobday/useDay'
import { useSession } from '../../session/session'
import CoatRecord from './CoatRecord.vue'
import HandoverPanel from './HandoverPanel.vue'
import FaultPanel from './FaultPanel.vue'

/** What happened on a job against what was planned, as far as it was logged. */
const props = defineProps<{ id: string }>()
const session = useSession()
const here = useDay(props.id)
const { issue, day, trouble, zone } = here
const begun = computed(() =>
  (day.value?.coats ?? []).flatMap((c) => {
    const plan = issue.value?.coats.find((p) => p.id === c.id)
    return c.begun && plan ? [{ coat: c, plan }] : []
  }),
)
const bad = computed(() => (day.value?.facts ?? []).filter((f) => f.so))
const HOUR = 3600
const taskName = (id: string): string => issue.value?.tasks.find((t) => t.id === id)?.name ?? id
</script>

<template>
  <div class="page">
    <div class="row mb-3">
      <v-btn variant="text" :to="`/jobs/${id}`">‹ Back to the job</v-btn>
      <h1 class="grow name">Record{{ issue ? `: ${issue.name}` : '' }}</h1>
      <v-btn v-if="issue" variant="flat" color="primary" :to="`/jobs/${id}/day`">Job day</v-btn>
    </div>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-else-if="!day" class="quiet">Reading the record …</p>
    <template v-if="day && issue">
      <p class="quiet">
        Plan {{ issue.number }}, issued {{ dayTime(issue.at, zone) }} by {{ issue.by }} to {{ issue.to }}.
        <template v-if="day.closed"
          >Closed by {{ day.closed.by }}, {{ dayTime(day.closed.at, zone) }}.</template
        >
      </p>
      <p v-for="d in day.doubts" :key="d" role="status" class="finding">{{ d }}</p>
      <p v-for="b in day.breaks" :key="b.device + b.number" role="alert" class="finding">{{ b.text }}</p>
      <p v-if="begun.length === 0" class="quiet">
        Nothing was poured yet. What the crew logs on the job day stands here.
      </p>
      <section v-for="b in begun" :id="b.coat.id" :key="b.coat.id" class="sheet part">
        <h2>{{ b.coat.surface }}, coat {{ b.coat.number }}: {{ b.coat.name }}</h2>
        <DayRibbons :coat="b.coat" :plan="b.plan" :zone="zone" />
        <CoatRecord
          :coat="b.coat"
          :plan="b.plan"
          :zone="zone"
          @give="here.log('served', `coat/${b.coat.id}`, { stage: $event })"
        />
      </section>
      <HandoverPanel v-if="begun.length" :id="id" :here="here" />
      <FaultPanel v-if="begun.length" :id="id" :here="here" />
      <section v-if="bad.length" class="sheet part" aria-labelledby="facts-title">
        <h2 id="facts-title">Deviations</h2>
        <ul data-test="facts">
          <li v-for="(f, i) in bad" :key="i">{{ f.text }}</li>
        </ul>
      </section>
      <div class="two">
        <section v-if="day.readings.length" id="conditions" class="sheet part">
          <h2>Conditions</h2>
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
                <tr v-for="r in day.readings" :key="r.event">
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
        </section>
        <section v-if="day.notes.length || day.hours.length" class="sheet part">
          <h2>Notes and hours</h2>
          <ul>
            <li v-for="n in day.notes" :key="n.event">
              {{ clockTime(n.at, zone) }}, {{ n.by }}: {{ n.text
              }}<template v-if="n.who"> (decided: {{ n.who }})</template>
            </li>
            <li v-for="(h, i) in day.hours" :key="i">
              {{ h.person }}, {{ taskName(h.task) }}: {{ clockTime(h.from, zone) }} to
              {{ h.to ? minuteTime(h.to, zone) : 'now' }}, {{ (h.span / HOUR).toFixed(1) }} h
            </li>
          </ul>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.name {
  min-width: min(100%, 320px);
}
.part {
  padding: 14px 18px;
  margin-bottom: 14px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
