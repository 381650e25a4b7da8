<script setup lang="ts">
import { dataOf, useRequest } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { api, type Issues } from '../../api/client'
import FoldPanel from '../../fields/FoldPanel.vue'
import PickField from '../../fields/PickField.vue'
import TextField from '../../fields/TextField.vue'
import { dayTime } from '../../fields/clock'
import { useSession } from '../../session/session'
import { useDesk } from '../job/useEditor'

/** Gives the plan as it stands to a crew, and tells how today's differs from the one they have. */
const desk = useDesk()
const session = useSession()
const issues = ref<Issues>()
const { trouble, ask } = useRequest()
const said = ref('')
const crews = ref<string[]>([])
const to = ref('')
const day = ref('')
const note = ref('')
const path = { job: desk.jobId }

async function load(): Promise<void> {
  const [issued, standards] = await Promise.all([
    ask(api.GET('/api/jobs/{job}/issues', { params: { path } }), 'The issued plans cannot be read.'),
    dataOf(api.GET('/api/house')),
  ])
  if (issued.data) issues.value = issued.data
  crews.value = (standards?.house.crews ?? []).map((c) => c.name)
  to.value ||= next.value?.crew ?? crews.value[0] ?? 'The crew'
  if (!newest.value) day.value ||= next.value?.day ?? ''
}
/** The first day on which a coat is booked that is still to come, and its crew: who is issued to, unless somebody says otherwise. */
const next = computed(() => {
  const { surfaces, zone } = desk.plan.value
  const day = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short' })
  const today = day.format(new Date())
  return surfaces
    .flatMap((s) => s.coats)
    .flatMap((c) =>
      c.booked && c.times?.begins ? [{ crew: c.booked, day: day.format(new Date(c.times.begins)) }] : [],
    )
    .filter((c) => c.day >= today)
    .toSorted((a, b) => a.day.localeCompare(b.day))[0]
})
void load()

async function issue(): Promise<void> {
  said.value = ''
  const { data } = await ask(
    api.POST('/api/jobs/{job}/issues', {
      params: { path },
      body: {
        saveId: crypto.randomUUID(),
        to: to.value,
        day: day.value || undefined,
        note: note.value || undefined,
      },
    }),
    'The plan was not issued.',
    'The server does not answer; the plan was not issued. Try again.',
  )
  if (!data) return
  said.value = `Plan ${data.number} is with ${data.to}.`
  note.value = ''
  await load()
}
const newest = computed(() => issues.value?.lines[0])
</script>

<template>
  <section class="sheet issue" aria-labelledby="issue-title" data-test="issue">
    <div class="row">
      <h3 id="issue-title" class="grow">Issued to the crew</h3>
      <template v-if="newest">
        <v-btn variant="flat" color="primary" :to="`/jobs/${desk.jobId}/day`">Job day</v-btn>
        <v-btn :to="`/jobs/${desk.jobId}/record`">Record</v-btn>
      </template>
    </div>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-if="said" role="status">{{ said }}</p>
    <p v-if="issues && !newest" class="quiet">
      Nothing was issued yet. A crew works from an issued plan: frozen, with a number, and open without a
      network.
    </p>
    <template v-if="newest">
      <p>
        Plan {{ newest.number }}, {{ dayTime(newest.at, desk.plan.value.zone) }}, by {{ newest.by }} to
        {{ newest.to }}{{ newest.day ? `, for ${newest.day}` : '' }}: {{ newest.coats }} coats,
        {{ newest.batches }} batches.
        <template v-if="newest.note">“{{ newest.note }}”</template>
      </p>
      <div v-if="issues?.changes.length" data-test="issue-changes">
        <b>The present plan differs from it:</b>
        <ul>
          <li v-for="c in issues.changes" :key="c.text">{{ c.text }}</li>
        </ul>
      </div>
      <p v-else class="quiet">The present plan does not differ for the crew.</p>
      <FoldPanel v-if="(issues?.lines.length ?? 0) > 1">
        <template #title>{{ (issues?.lines.length ?? 1) - 1 }} before it</template>
        <ul>
          <li v-for="l in issues?.lines.slice(1)" :key="l.number">
            Plan {{ l.number }}, {{ dayTime(l.at, desk.plan.value.zone) }}, by {{ l.by }} to {{ l.to }}:
            superseded.
          </li>
        </ul>
      </FoldPanel>
    </template>
    <form v-if="session.mayKeep" class="row give" @submit.prevent="issue">
      <PickField
        v-if="crews.length"
        v-model="to"
        label="To"
        :options="Object.fromEntries(crews.map((c) => [c, c]))"
      />
      <TextField v-else v-model="to" label="To" />
      <TextField v-model="day" type="date" label="For the day" />
      <TextField v-model="note" label="Note" class="grow" />
      <v-btn type="submit" :disabled="to.trim() === ''" data-test="issue-plan">{{
        newest ? 'Issue again' : 'Issue this plan'
      }}</v-btn>
    </form>
  </section>
</template>

<style scoped>
.issue {
  padding: 12px 16px;
}
.give {
  margin-top: 8px;
  align-items: end;
}
ul {
  margin: 4px 0;
  padding-left: 20px;
}
p {
  margin: 4px 0;
}
</style>
