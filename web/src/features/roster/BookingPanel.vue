<script setup lang="ts">
import { computed } from 'vue'
import type { Bookable } from '../../api/client'
import PickField from '../../fields/PickField.vue'
import TextField from '../../fields/TextField.vue'
import { dayTime } from '../../fields/clock'
import { useSession } from '../../session/session'
import { type Roster } from './useRoster'
import { keyOf } from '../../drawing/roster'

/** One task on the roster: when it may begin, when it is booked, and moving it. */
const props = defineProps<{ roster: Roster; task: Bookable; movable: boolean }>()
const emit = defineEmits<{ move: [crew: string, from: Date] }>()
const session = useSession()
const zone = computed(() => props.roster.view.value?.zone)
const key = computed(() => keyOf(props.task))
const booked = computed(() => props.roster.view.value?.bookings.find((b) => keyOf(b) === key.value))
const window = computed(() => props.roster.windows.value.get(key.value))
const lain = computed(() => props.roster.view.value?.lain.find((l) => keyOf(l) === key.value))
const follows = computed(() => props.roster.view.value?.follows.find((f) => keyOf(f) === key.value))
const fits = { late: 'Too late or too early', tight: 'Tight', free: 'In its window' }
const begun = computed(() => !!lain.value || (booked.value && new Date(booked.value.from) < new Date()))
const crews = computed(() =>
  Object.fromEntries((props.roster.view.value?.crews ?? []).map((c) => [c.id, c.name])),
)
/** When the pails of its pours are made ready. */
const ready = computed(() => (booked.value?.pours ?? []).flatMap((p) => (p.ready?.name ? [p.ready] : [])))
const told = (at: string): string => dayTime(at, zone.value)

/** A time as a local field shows it by the clock of the company, and back. */
const parts = (at: Date): string => {
  const format = new Intl.DateTimeFormat('sv-SE', {
    timeZone: zone.value,
    dateStyle: 'short',
    timeStyle: 'short',
  })
  return format.format(at).replace(' ', 'T')
}
function instant(local: string): Date {
  const guess = new Date(`${local}:00Z`)
  const off = new Date(`${parts(guess)}:00Z`).getTime() - guess.getTime()
  return new Date(guess.getTime() - off)
}
function when(event: Event): void {
  const value = (event.target as HTMLInputElement).value
  if (!Number.isNaN(Date.parse(`${value}:00Z`)) && booked.value?.crew)
    emit('move', booked.value.crew, instant(value))
}
</script>

<template>
  <section class="panel task" :aria-label="task.name" data-test="booking">
    <h2>
      <router-link :to="`/jobs/${task.job}/pour`">{{ roster.names.value.get(task.job) }}</router-link>
    </h2>
    <p class="what">
      <svg v-if="task.color" class="chip" aria-hidden="true">
        <rect width="14" height="14" :fill="task.color" />
      </svg>
      {{ task.surface }}: {{ task.name }}
    </p>
    <p v-if="roster.broken.value.get(key)" class="late" role="alert">{{ roster.broken.value.get(key) }}</p>
    <p v-if="follows" :class="follows.fit === 'free' ? 'quiet small' : 'late'" data-test="follows-here">
      {{ fits[follows.fit] }}: its window counts from what was logged.
    </p>
    <dl>
      <template v-if="lain">
        <dt>Logged</dt>
        <dd>
          {{ told(lain.from) }} to {{ lain.open ? 'now' : told(lain.until) }}, set-up and cleaning as planned
        </dd>
      </template>
      <template v-if="booked">
        <dt>Booked</dt>
        <dd data-test="booked-at">{{ told(booked.from) }} to {{ told(booked.until) }}</dd>
      </template>
      <template v-for="r in ready" :key="r.from">
        <dt>Pails</dt>
        <dd>{{ r.name }}, {{ told(r.from) }} to {{ told(r.until) }}</dd>
      </template>
      <template v-if="!task.passing">
        <dt>Takes</dt>
        <dd>
          {{ task.people === 1 ? 'one person' : `${task.people} people` }},
          {{ session.format('span', task.minutes * 60) }}
        </dd>
      </template>
      <template v-if="window?.opens">
        <dt>Ready</dt>
        <dd>from {{ told(window.opens) }}</dd>
      </template>
      <template v-if="window?.closes">
        <dt>Closes</dt>
        <dd>{{ told(window.closes) }}</dd>
      </template>
      <template v-if="booked?.bought">
        <dt>Window missed</dt>
        <dd>The whole area is abraded first.</dd>
      </template>
    </dl>
    <p v-if="task.whole" class="small quiet">
      Must fit in one shift; its time includes set-up, inspection and tool cleaning.
    </p>
    <template v-if="movable && booked && !task.passing && !begun">
      <div class="fields">
        <TextField
          label="Begins"
          type="datetime-local"
          :model-value="parts(new Date(booked.from))"
          @change="when"
        />
        <PickField
          label="Crew"
          :model-value="booked.crew ?? ''"
          :options="crews"
          @update:model-value="emit('move', $event, new Date(booked.from))"
        />
      </div>
      <v-btn
        size="small"
        :aria-pressed="booked.pinned ?? false"
        data-test="pin"
        @click="roster.pin(task, !booked.pinned)"
        >{{ booked.pinned ? 'Unpin' : 'Pin here' }}</v-btn
      >
      <p class="small quiet mt-2">A pinned booking keeps its time when the rest is re-planned.</p>
    </template>
    <p v-else-if="begun" class="small quiet">It has started and cannot be moved.</p>
  </section>
</template>

<style scoped>
.task {
  max-width: none;
}
.what {
  font-weight: 700;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 14px;
  margin: 10px 0;
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
}
.fields {
  display: grid;
  gap: 10px;
  margin: 10px 0;
}
.late {
  color: var(--stop);
  font-weight: 700;
}
</style>
