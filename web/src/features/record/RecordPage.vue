<script setup lang="ts">
import { computed, nextTick, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { clockTime, dayTime, minuteTime } from '../../fields/clock'
import type { RecordLate, RecordSurface } from '../../api/client'
import DayRibbons from '../../drawing/DayRibbons.vue'
import { useDay } from '../jobday/useDay'
import { kindWords } from '../jobday/words'
import CoatRecord from './CoatRecord.vue'
import CoatSummary from './CoatSummary.vue'
import ConditionsTable from './ConditionsTable.vue'
import FaultPanel from './FaultPanel.vue'
import HandoverPanel from './HandoverPanel.vue'
import PailMap from './PailMap.vue'

/** What happened on a job against what was planned, as far as it was logged. */
const props = defineProps<{ id: string }>()
const route = useRoute()
const router = useRouter()
const here = useDay(props.id)
const { issue, day, trouble, zone } = here
const all = computed(() =>
  (day.value?.coats ?? []).flatMap((coat) => {
    const plan = issue.value?.coats.find((p) => p.id === coat.id)
    return plan ? [{ coat, plan }] : []
  }),
)
const begun = computed(() => all.value.filter((c) => c.coat.begun))
const deviations = computed(() => (day.value?.facts ?? []).filter((f) => f.so && !f.ground))
const parts = computed<Record<string, string>>(() => ({
  summary: 'Summary',
  ...(begun.value.length > 0 && { coats: 'Coats', handover: 'Hand-over', defects: 'Defects' }),
}))

/** The coat that the fragment of the address names, by itself or with one of its batches. */
const named = computed(() => {
  const place = route.hash.slice(1)
  return begun.value.find((c) => place === c.coat.id || place.startsWith(`${c.coat.id}-`))
})
const part = computed(() => {
  const place = route.hash.slice(1)
  return named.value ? 'coats' : place in parts.value ? place : 'summary'
})
const shown = computed(() => named.value ?? begun.value.at(-1))
const turn = (to: unknown): unknown => router.replace({ hash: `#${String(to)}` })
watch(
  () => [route.hash, day.value !== null] as const,
  async ([hash, read]) => {
    await nextTick()
    if (read && hash.length > 1) document.getElementById(hash.slice(1))?.scrollIntoView({ block: 'nearest' })
  },
)
/** Late entries; those of one person that are late in the same way, one after the other, as one line. */
const late = computed(() => {
  const lines: { way: string; first: RecordLate; last: string; count: number }[] = []
  for (const l of day.value?.late ?? []) {
    const way = `${l.by} ${l.text.replace(/[\d.,]+\W?(s|min|h|days?|weeks?)\b/g, '')}`
    const line = lines.at(-1)
    if (line?.way === way) {
      line.last = l.at
      line.count++
    } else lines.push({ way, first: l, last: l.at, count: 1 })
  }
  return lines
})
const HOUR = 3600
function coatName(id: string): string {
  const c = day.value?.coats.find((one) => one.id === id)
  return c ? `${c.surface}, coat ${c.number}` : id
}
const surfaceOf = (id: string): RecordSurface | undefined => issue.value?.surfaces.find((s) => s.id === id)
const taskName = (id: string): string => issue.value?.tasks.find((t) => t.id === id)?.name ?? id
</script>

<template>
  <div class="page">
    <div class="row mb-2">
      <v-btn variant="text" :to="`/jobs/${id}`">‹ Back to the job</v-btn>
      <h1 class="grow name">Record{{ issue ? `: ${issue.name}` : '' }}</h1>
      <v-btn v-if="issue" variant="flat" color="primary" :to="`/jobs/${id}/day`">Job day</v-btn>
    </div>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <v-skeleton-loader
      v-else-if="!day"
      type="heading, table-heading, table-row@4"
      aria-label="Reading the record"
    />
    <template v-if="day && issue">
      <p class="quiet mb-2">
        Plan {{ issue.number }}, issued {{ dayTime(issue.at, zone) }} by {{ issue.by }} to {{ issue.to }}.
        <template v-if="day.closed"
          >Closed by {{ day.closed.by }}, {{ dayTime(day.closed.at, zone) }}.</template
        >
      </p>
      <p v-for="b in day.breaks" :key="b.device + b.number" role="alert" class="finding">{{ b.text }}</p>
      <v-tabs
        v-if="begun.length > 0"
        :model-value="part"
        class="choices mb-3"
        hide-slider
        aria-label="Record"
        @update:model-value="turn"
      >
        <v-tab v-for="(title, name) in parts" :key="name" :value="name" :data-part="name">
          <span
            >{{ title
            }}<template v-if="name === 'summary' && deviations.length">
              ({{ deviations.length }} {{ deviations.length === 1 ? 'deviation' : 'deviations' }})</template
            ></span
          >
        </v-tab>
      </v-tabs>
      <v-tabs-window :model-value="part">
        <v-tabs-window-item value="summary">
          <p v-for="d in day.doubts" :key="d" role="status" class="finding">{{ d }}</p>
          <section v-if="begun.length > 0" class="sheet part" aria-labelledby="facts-title">
            <h2 id="facts-title">Deviations</h2>
            <ul v-if="deviations.length" data-test="facts">
              <li v-for="(f, i) in deviations" :key="i">
                <router-link :to="{ hash: `#${f.coat}${f.batch ? `-${f.batch}` : ''}` }">{{
                  coatName(f.coat)
                }}</router-link>: {{ f.text }}
              </li>
            </ul>
            <p v-else class="quiet">None: what was logged is within the plan.</p>
          </section>
          <section v-if="day.late?.length" class="sheet part" aria-labelledby="late-title" data-test="late">
            <h2 id="late-title">Late entries</h2>
            <ul>
              <li v-for="(l, i) in late" :key="i">
                {{ dayTime(l.first.at, zone)
                }}<template v-if="l.count > 1"> to {{ dayTime(l.last, zone) }}</template
                >, {{ l.first.by }}: {{ l.count > 1 ? `${l.count} entries` : kindWords[l.first.kind] }},
                {{ l.first.text }}
              </li>
            </ul>
          </section>
          <section class="sheet part" aria-labelledby="coats-title">
            <h2 id="coats-title">Coats</h2>
            <CoatSummary :coats="all" :zone="zone" />
            <p v-if="begun.length === 0" class="quiet mt-2">
              Nothing was poured yet. What the crew logs on the job day stands here.
            </p>
          </section>
          <div class="two">
            <section v-if="day.readings.length" id="conditions" class="sheet part">
              <h2>Conditions</h2>
              <ConditionsTable :readings="day.readings" :zone="zone" />
            </section>
            <section v-if="day.closings?.length" class="sheet part" data-test="closings">
              <h2>Preparation and tests</h2>
              <ul>
                <li v-for="c in day.closings" :key="c.event">
                  {{ clockTime(c.at, zone) }}, {{ c.by }}: <b>{{ taskName(c.task) }}</b>,
                  {{ c.failed ? 'failed: ' : '' }}{{ c.saw }}
                </li>
              </ul>
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
        </v-tabs-window-item>
        <v-tabs-window-item value="coats">
          <v-tabs
            v-if="begun.length > 1"
            :model-value="shown?.coat.id"
            class="choices mb-2"
            hide-slider
            aria-label="Coat whose record is shown"
            @update:model-value="turn"
          >
            <v-tab v-for="b in begun" :key="b.coat.id" :value="b.coat.id">
              <span>{{ b.coat.surface }}, coat {{ b.coat.number }}</span>
            </v-tab>
          </v-tabs>
          <section v-if="shown" :id="shown.coat.id" :key="shown.coat.id" class="sheet part">
            <h2>{{ shown.coat.surface }}, coat {{ shown.coat.number }}: {{ shown.coat.name }}</h2>
            <DayRibbons :coat="shown.coat" :plan="shown.plan" :zone="zone" />
            <PailMap
              v-if="surfaceOf(shown.plan.surface)?.outline?.length"
              :surface="surfaceOf(shown.plan.surface)!"
              :coat="shown.coat"
              :plan="shown.plan"
              :faults="day.faults"
              :zone="zone"
            />
            <CoatRecord
              :coat="shown.coat"
              :plan="shown.plan"
              :zone="zone"
              @give="here.log('served', `coat/${shown?.coat.id}`, { stage: $event })"
            />
          </section>
        </v-tabs-window-item>
        <v-tabs-window-item value="handover">
          <HandoverPanel :id="id" :here="here" />
        </v-tabs-window-item>
        <v-tabs-window-item value="defects">
          <FaultPanel :id="id" :here="here" />
        </v-tabs-window-item>
      </v-tabs-window>
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
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 440px), 1fr));
  gap: 14px;
}
</style>
