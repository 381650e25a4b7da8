<script setup lang="ts">
import { ref } from 'vue'
import type { RecordCoat, RecordCoatDay, RecordGateState } from '../../api/client'
import { minuteTime } from '../../fields/clock'
import { useSession } from '../../session/session'
import FoldPanel from '../../fields/FoldPanel.vue'
import TextField from '../../fields/TextField.vue'
import DayReadings from './DayReadings.vue'
import type { Read } from './readings'
import type { DayAtJob } from './useDay'

/** What must hold before the first pail: each closed by a person with what they saw. */
const props = defineProps<{ here: DayAtJob; coat: RecordCoatDay; plan: RecordCoat }>()
const session = useSession()
const read = ref<Read>({})
const trouble = ref('')
/** The gate that is being overridden, and why. */
const over = ref('')
const reason = ref('')
const task = (): string => `coat/${props.plan.id}`

/** The gate that is closed in own words, and these. */
const telling = ref('')
const seen = ref('')

async function close(gate: RecordGateState, saw: string): Promise<void> {
  if (gate.reads) await props.here.ready()
  const { slab, air, humidity } = read.value
  if (gate.reads && (slab === undefined || air === undefined || humidity === undefined)) {
    trouble.value = 'Enter slab, air and humidity; all three are needed to know the dew point.'
    return
  }
  trouble.value = ''
  const kept = await props.here.log('gate', task(), {
    gate: gate.key,
    saw,
    ...(gate.reads ? read.value : {}),
  })
  if (kept) telling.value = seen.value = ''
}
async function override(gate: RecordGateState): Promise<void> {
  if (reason.value.trim() === '') return
  if (await props.here.log('gate', task(), { gate: gate.key, reason: reason.value.trim() })) {
    over.value = ''
    reason.value = ''
  }
}
</script>

<template>
  <section aria-labelledby="gates-title" data-test="gates">
    <h2 id="gates-title">Before the first pail: {{ coat.open }} of {{ coat.gates.length }} open</h2>
    <p v-if="plan.number > 1" class="row">
      <template v-if="coat.abraded"
        >The coat below was abraded everywhere, {{ minuteTime(coat.abraded, here.zone.value) }}.</template
      >
      <button v-else type="button" class="touch" @click="here.log('abraded', task())">
        The coat below is abraded everywhere
      </button>
    </p>
    <FoldPanel
      v-if="plan.ahead.length > 0"
      title="The day before and the last minutes"
      data-test="day-before"
    >
      <ol class="ahead">
        <li v-for="a in plan.ahead" :key="a">{{ a }}</li>
      </ol>
    </FoldPanel>
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
          <DayReadings v-if="g.reads" v-model="read" :read="here.read.value" />
          <p v-if="g.reads && trouble" role="alert" class="bad">{{ trouble }}</p>
          <div class="acts">
            <button
              type="button"
              class="touch main"
              :data-gate="g.key"
              @click="close(g, g.reads ? 'read on this surface' : g.saw)"
            >
              {{ g.reads ? 'Take readings' : g.saw }}
            </button>
            <button
              v-if="!g.reads && telling !== g.key"
              type="button"
              class="touch"
              :aria-label="`Other words for ${g.title}`"
              @click="telling = g.key"
            >
              Other words
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
          <form v-if="telling === g.key" class="day-line" @submit.prevent="close(g, seen.trim())">
            <TextField v-model="seen" class="day-text" label="What was seen" maxlength="300" required />
            <button type="submit" class="touch main">Close {{ g.title }}</button>
            <button type="button" class="touch" @click="telling = ''">Cancel</button>
          </form>
          <form v-if="over === g.key" class="day-line" @submit.prevent="override(g)">
            <TextField v-model="reason" class="day-text" label="Reason to go on" maxlength="300" required />
            <button type="submit" class="touch warn">Override, {{ session.me?.name }}</button>
            <button type="button" class="touch" @click="over = ''">Cancel</button>
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
ol.ahead li {
  border: 0;
  background: none;
  padding: 2px 0;
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
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
}
.acts .main {
  flex: 1;
}
</style>
