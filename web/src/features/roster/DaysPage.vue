<script setup lang="ts">
import { computed, ref } from 'vue'
import TextField from '../../fields/TextField.vue'
import { dayTime } from '../../fields/clock'
import RosterChart from '../../drawing/RosterChart.vue'
import IssuePanel from '../jobday/IssuePanel.vue'
import { kindOf } from '../job/blank'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import DayList from './DayList.vue'
import PlanAnswer from './PlanAnswer.vue'
import SiteTerms from './SiteTerms.vue'
import { useRoster } from './useRoster'

/** The days of one job: its tasks on the calendar, and from when its surfaces can be used. */
const desk = useDesk()
const session = useSession()
const roster = useRoster()
void roster.load()
const chosen = ref('')
const mine = computed(() => (roster.view.value?.promises ?? []).filter((p) => p.job === desk.jobId))
const surfaces = computed(() => [...new Set(mine.value.map((p) => p.surface))])
const tops = computed(
  () => new Set(desk.file.value.job.surfaces.filter((s) => kindOf(s) === 'top').map((s) => s.name)),
)
const stages = {
  foot: 'First use',
  furniture: 'Furniture, things',
  vehicle: 'Vehicles',
  water: 'Water',
  full: 'Full cure',
} as const
const at = (surface: string, stage: keyof typeof stages): string => {
  const p = mine.value.find((m) => m.surface === surface && m.stage === stage)
  if (!p) return stage === 'vehicle' && tops.value.has(surface) ? '–' : 'not stated on its sheet'
  const zone = roster.view.value?.zone
  return p.latest > p.at
    ? `${dayTime(p.at, zone)}, at the latest ${dayTime(p.latest, zone)}`
    : dayTime(p.at, zone)
}
const booked = computed(() => (roster.view.value?.bookings ?? []).some((b) => b.job === desk.jobId))
const due = computed(() => desk.file.value.job.due ?? '')
function setDue(event: Event): void {
  const value = (event.target as HTMLInputElement).value
  desk.editor.edit('due', (f) => (f.job.due = value || undefined))
}
</script>

<template>
  <section class="panel" aria-labelledby="days-title">
    <div class="row mb-3">
      <h2 id="days-title" class="grow">The days</h2>
      <TextField
        label="First use by"
        type="date"
        class="due"
        :model-value="due"
        :disabled="!session.mayEdit"
        @change="setDue"
      />
      <v-btn to="/roster">The whole roster</v-btn>
      <v-btn
        v-if="
          roster.proposal.value && session.mayKeep && !roster.proposal.value.conflict && !roster.tried.value
        "
        color="primary"
        variant="flat"
        data-test="book-days"
        @click="roster.keep"
        >Book these days</v-btn
      >
      <v-btn
        v-if="session.mayKeep"
        data-test="try-days"
        :disabled="!roster.view.value"
        @click="roster.planAll"
        >When could it be done?</v-btn
      >
    </div>
    <IssuePanel class="mb-3" />
    <SiteTerms class="mb-3" />
    <p v-if="roster.trouble.value" role="alert">{{ roster.trouble.value }}</p>
    <p v-if="roster.busy.value" role="status" class="small">{{ roster.busy.value }}</p>
    <template v-if="roster.view.value">
      <PlanAnswer :roster="roster" :job="desk.jobId" :movable="session.mayKeep" @choose="chosen = $event" />
      <p v-if="!booked" class="quiet">
        Nothing of this job is booked. Ask when it could be done: all open jobs are planned together, and
        nothing is booked by asking.
      </p>
      <template v-else>
        <RosterChart
          :view="roster.view.value"
          by="job"
          :hour="8"
          :only="desk.jobId"
          :chosen="chosen"
          @choose="chosen = $event"
        />
        <div
          v-if="surfaces.length > 0"
          class="scroll"
          tabindex="0"
          role="region"
          aria-label="Return to service"
        >
          <table class="figures mt-4" data-test="promises">
            <caption class="small quiet">
              When each surface is ready for use, by its data sheet and the forecast. “At the latest” is for a
              slab 3 K colder than forecast. First use: light foot traffic on a floor, light use of a top.
            </caption>
            <thead>
              <tr>
                <th>Surface</th>
                <th v-for="(name, s) in stages" :key="s">{{ name }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="s in surfaces" :key="s">
                <td>{{ s }}</td>
                <td v-for="(_, stage) in stages" :key="stage">{{ at(s, stage) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <DayList
          class="mt-4"
          :view="roster.view.value"
          :job="desk.jobId"
          :chosen="chosen"
          @choose="chosen = $event"
        />
      </template>
    </template>
    <p v-else-if="!roster.trouble.value" class="quiet">Reading …</p>
  </section>
</template>

<style scoped>
.due {
  max-width: 190px;
}
</style>
