<script setup lang="ts">
import { ref } from 'vue'
import { api, refusal, type RecordCoat, type RecordCoatDay, type RecordGateState } from '../../api/client'
import { minuteTime } from '../../fields/clock'
import { useSession } from '../people/session'
import DayField from './DayField.vue'
import type { DayAtJob } from './useDay'

/** What must hold before the first pail: each closed by a person with what they saw. */
const props = defineProps<{ here: DayAtJob; coat: RecordCoatDay; plan: RecordCoat }>()
const session = useSession()
const slab = ref<number>()
const air = ref<number>()
const humidity = ref<number>()
const trouble = ref('')
/** The gate that is being overridden, and why. */
const over = ref('')
const reason = ref('')
const task = (): string => `coat/${props.plan.id}`

async function close(gate: RecordGateState): Promise<void> {
  if (gate.reads) {
    if (slab.value === undefined || air.value === undefined || humidity.value === undefined) {
      trouble.value = 'Enter slab, air and humidity; all three are needed to know the dew point.'
      return
    }
    trouble.value = ''
    await props.here.log('gate', task(), {
      gate: gate.key,
      saw: 'read on this surface',
      slab: slab.value,
      air: air.value,
      humidity: humidity.value,
    })
    return
  }
  await props.here.log('gate', task(), { gate: gate.key, saw: gate.saw })
}
async function override(gate: RecordGateState): Promise<void> {
  if (reason.value.trim() === '') return
  if (await props.here.log('gate', task(), { gate: gate.key, reason: reason.value.trim() })) {
    over.value = ''
    reason.value = ''
  }
}
async function instruments(): Promise<void> {
  trouble.value = ''
  try {
    for (const name of ['ir-gun', 'hygrometer']) {
      const { data, error } = await api.POST('/api/instruments/{instrument}/reading', {
        params: { path: { instrument: name } },
      })
      if (!data) {
        trouble.value = refusal(error, 'The instrument could not be read.')
        continue
      }
      for (const v of data.values) {
        if (v.kind === 'slab-temperature') slab.value = v.value
        if (v.kind === 'air-temperature') air.value = v.value
        if (v.kind === 'air-humidity') humidity.value = v.value
      }
    }
  } catch {
    trouble.value = 'The instruments do not answer. Type the readings instead.'
  }
}
</script>

<template>
  <section aria-labelledby="gates-title" data-test="gates">
    <h2 id="gates-title">Before the first pail: {{ coat.open }} of {{ coat.gates.length }} open</h2>
    <ol>
      <li v-for="g in coat.gates" :key="g.key" :class="{ closed: g.closed, over: g.overridden }">
        <div class="words">
          <b>{{ g.title }}</b>
          <p v-if="g.closed" class="saw">
            {{ g.overridden ? 'Overridden' : 'Closed' }} by {{ g.by }},
            {{ minuteTime(g.at ?? '', here.zone.value) }}: {{ g.what }}
          </p>
          <p v-else>{{ g.ask }}</p>
          <p v-if="g.bad" role="alert" class="bad">{{ g.bad }}</p>
        </div>
        <template v-if="!g.closed">
          <div v-if="g.reads" class="reads">
            <DayField v-model="slab" kind="temperature" label="Slab" :read="here.read" />
            <DayField v-model="air" kind="temperature" label="Air" :read="here.read" />
            <DayField v-model="humidity" kind="fraction" label="Humidity" :read="here.read" />
            <button type="button" class="touch" @click="instruments">Read instruments</button>
          </div>
          <p v-if="g.reads && trouble" role="alert" class="bad">{{ trouble }}</p>
          <div class="acts">
            <button type="button" class="touch main" :data-gate="g.key" @click="close(g)">
              {{ g.reads ? 'Take readings' : g.saw }}
            </button>
            <button
              v-if="session.mayLead && over !== g.key"
              type="button"
              class="touch"
              :aria-label="`Override ${g.title}`"
              @click="over = g.key"
            >
              Override
            </button>
          </div>
          <form v-if="over === g.key" class="reads" @submit.prevent="override(g)">
            <label class="why"
              >Why it may go on
              <input v-model="reason" maxlength="300" required />
            </label>
            <button type="submit" class="touch warn">Override, {{ session.me?.name }}</button>
            <button type="button" class="touch" @click="over = ''">Leave it</button>
          </form>
        </template>
        <button
          v-else-if="g.event"
          type="button"
          class="touch quiet"
          :aria-label="`Open ${g.title} again`"
          @click="here.strike(g.event)"
        >
          Open again
        </button>
      </li>
    </ol>
  </section>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  display: grid;
  gap: 8px;
}
li {
  padding: 12px 14px;
  background: var(--paper);
  border: 2px solid var(--ink);
  border-radius: 3px;
  display: grid;
  gap: 8px;
}
li.closed {
  border: 1px solid var(--line);
  grid-template-columns: 1fr auto;
  align-items: center;
  padding: 4px 14px;
}
li.over {
  border: 2px solid var(--warn);
}
b {
  font-size: 1.2rem;
}
p {
  margin: 0;
  font-size: 1.05rem;
}
.bad {
  color: var(--stop);
  font-weight: 640;
}
.reads,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
}
.acts .main {
  flex: 1;
}
.why {
  flex: 1;
  min-width: 220px;
  font-weight: 640;
}
.why input {
  display: block;
  width: 100%;
  height: 56px;
  padding: 0 12px;
  font: inherit;
  color: var(--ink);
  background: var(--well);
  border: 2px solid var(--ink);
  border-radius: 3px;
}
</style>
