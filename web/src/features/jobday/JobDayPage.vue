<script setup lang="ts">
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useDaylight } from '../../shell/useDaylight'
import PickField from '../../fields/PickField.vue'
import DayFloor from '../../drawing/DayFloor.vue'
import { useSession } from '../../session/session'
import DayBatches from './DayBatches.vue'
import DayChange from './DayChange.vue'
import DayEnough from './DayEnough.vue'
import DayEntries from './DayEntries.vue'
import DayGates from './DayGates.vue'
import DayLock from './DayLock.vue'
import DayNow from './DayNow.vue'
import DayPreparation from './DayPreparation.vue'
import DayWaits from './DayWaits.vue'
import { useOffline } from './offline'
import { kindWords } from './words'
import type { RecordSay } from '../../api/client'
import { useAlarm } from './useAlarm'
import { plainWords, useDay } from './useDay'

/** The day on the floor: what to do now, what next, what to watch; and the record as it is made. */
const props = defineProps<{ id: string; coat?: string; batch?: string }>()
const session = useSession()
const here = useDay(props.id)
const kept = useOffline(computed(() => here.day.value !== null))

const chosen = ref(props.coat ?? '')
const coats = computed(() => here.day.value?.coats ?? [])
/** The coat that the day is at: the first that is not done, unless another is chosen. */
const at = computed(
  () => coats.value.find((c) => c.id === chosen.value) ?? coats.value.find((c) => !c.done) ?? coats.value[0],
)
const plan = computed(() => here.issue.value?.coats.find((c) => c.id === at.value?.id))
const surface = computed(() => here.issue.value?.surfaces.find((s) => s.id === plan.value?.surface))
const layers = computed(
  () => here.issue.value?.coats.filter((c) => c.surface === plan.value?.surface).length ?? 1,
)
const number = ref(Number(props.batch) || 1)
const one = computed(() => at.value?.batches.find((b) => b.number === number.value) ?? at.value?.batches[0])
watch(
  () => at.value?.now.find((s) => s.batch)?.batch,
  (n) => {
    if (n) number.value = n
  },
)
/** What the next tap on the plan says: where the pail of the batch at hand ended, or how far the film reaches. */
const spotting = ref<'pail' | 'film' | ''>('')
const CENTIMETRES = 100
async function end([x, y]: [number, number]): Promise<void> {
  const where: [number, number] = [
    Math.round(x * CENTIMETRES) / CENTIMETRES,
    Math.round(y * CENTIMETRES) / CENTIMETRES,
  ]
  const area = spotting.value === 'film' ? here.laid(plan.value?.id ?? '', where) : undefined
  const batch =
    spotting.value === 'film' ? poured.value : plan.value?.batches.find((b) => b.number === number.value)
  if (!batch || (spotting.value === 'film' && area === undefined)) return
  if (await here.log('emptied', batch.id, area === undefined ? { at: where } : { area })) spotting.value = ''
}
const parts = useLocalStorage<{ a?: number; b?: number }>(`nephelon.parts.${props.id}`, {})
/** How far the pails of the coat reach, and the one poured last: its end is told. */
const reach = computed(() => here.day.value?.enough.find((r) => r.coat === at.value?.id))
const poured = computed(() => {
  const last = at.value?.batches.findLast((b) => b.began)?.number
  return plan.value?.batches.find((b) => b.number === last)
})
/** Whose device it is, of the crew; everybody's when empty. */
const who = useLocalStorage(`nephelon.day.who.${props.id}`, '')
const crew = computed(() => plan.value?.crew ?? [])
/** What somebody does, and what nobody of the crew is named for. */
function mine(say: RecordSay): boolean {
  const own = crew.value.find((p) => p.name === who.value)
  const parts = say.for ?? []
  if (!own || parts.length === 0 || parts.some((r) => own.roles.includes(r))) return true
  return !crew.value.some((p) => parts.some((r) => p.roles.includes(r)))
}
const begun = computed(() => at.value?.batches.some((b) => b.meets) ?? false)
const gates = ref(false)
/** The preparation is shown until a coat is begun, unless the day was turned to the other. */
const steps = computed(() => here.day.value?.steps ?? [])
const turned = ref<'preparation' | 'coats' | ''>('')
const prepares = computed(() => {
  if (steps.value.length === 0 || turned.value) return turned.value === 'preparation'
  return coats.value.every((c) => !c.begun) && steps.value.some((s) => s.state !== 'closed')
})
/** What is called out about how far the pails reach. */
const ALARMING = ['stretch', 'short', 'thin']
const { sound, buzz, lamp, test } = useAlarm(
  computed(() => [
    ...[...(at.value?.now ?? []).filter((s) => s.do === 'lost'), ...(at.value?.watch ?? [])].map(
      (s) => s.text,
    ),
    ...(reach.value && ALARMING.includes(reach.value.verdict) ? [reach.value.do ?? ''] : []),
  ]),
  computed(() => [
    ...(at.value?.now ?? []).filter((s) => s.batch && s.do !== 'lost' && mine(s)).map((s) => s.text),
    ...(here.day.value?.waits ?? [])
      .filter((w) => new Date(w.due).getTime() <= here.clock.second.value)
      .map((w) => `${w.place}: ${w.text}`),
  ]),
)
const SKEW_MS = 2000
const skew = computed(() => {
  const s = Math.round(Math.abs(here.clock.behind.value) / 1000)
  if (s * 1000 < SKEW_MS) return ''
  const words = s < 120 ? `${s} s` : `${Math.round(s / 60)} min`
  return `This device's clock is ${words} ${here.clock.behind.value > 0 ? 'behind' : 'ahead'}; it is corrected.`
})
const states = {
  reading: 'Reading …',
  level: 'Sent',
  away: 'No network',
  held: 'Rejected',
  'signed-out': 'Signed out',
} as const
const sentence = computed(() => {
  const n = here.waiting.value
  const pictures = here.photos.value
  if (n === 0 && pictures === 0) return states[here.state.value]
  const entries = n === 1 ? '1 entry' : n > 0 ? `${n} entries` : ''
  const seen = pictures === 1 ? '1 photograph' : pictures > 0 ? `${pictures} photographs` : ''
  const words = `${[entries, seen].filter(Boolean).join(' and ')} ${n + pictures === 1 ? 'waits' : 'wait'}`
  return here.state.value === 'level' ? words : `${states[here.state.value]}: ${words}, kept here`
})
const { turn } = useDaylight()
/** The side on which the hand is that touches: what is to be done lies there, so that the arm covers nothing else. */
const right = useLocalStorage('nephelon.day.right', false)
const locked = ref(false)
/** On a phone the settings unfold. */
const more = ref(false)
/** What was logged last, with the batch or section that it was logged of. */
const lastEntry = computed(() => {
  const last = here.last.value
  return last
    ? [kindWords[last.kind], last.task?.split('/').slice(2).join(' ')].filter(Boolean).join(', ')
    : ''
})
const closing = ref(false)
const changing = ref(false)
async function close(): Promise<void> {
  if (await here.log('closed', `coat/${at.value?.id ?? ''}`, { text: 'Day closed' })) closing.value = false
}
useEventListener(window, 'keydown', (event) => {
  if (
    locked.value ||
    event.target instanceof HTMLInputElement ||
    event.ctrlKey ||
    event.metaKey ||
    event.altKey
  )
    return
  if (event.key === ' ' || event.key === 'Enter') {
    if (event.target instanceof HTMLButtonElement) return
    document.querySelector<HTMLButtonElement>('[data-test=now] .main')?.click()
    event.preventDefault()
  } else if (event.key === 'z' && here.last.value) void here.strike(here.last.value.id)
})
</script>

<template>
  <div class="day" :class="{ right }">
    <DayLock v-if="locked" v-model="locked" />
    <header>
      <router-link class="touch" :to="`/jobs/${id}/record`">‹ Record</router-link>
      <div class="title">
        <h1>{{ here.issue.value?.name ?? 'Job day' }}</h1>
        <p v-if="here.issue.value" data-test="plan" :data-kept="kept">
          Plan {{ here.issue.value.number }}, for {{ here.issue.value.to
          }}{{ kept ? '; opens without a network' : '' }}
        </p>
      </div>
      <div v-if="steps.length > 0" class="phases" role="group" aria-label="Part of the day">
        <button
          v-for="(name, phase) in { preparation: 'Preparation', coats: 'Coats' } as const"
          :key="phase"
          type="button"
          class="touch"
          :aria-pressed="prepares === (phase === 'preparation')"
          :data-phase="phase"
          @click="turned = phase"
        >
          {{ name }}
        </button>
      </div>
      <p
        class="sent"
        :class="here.state.value"
        role="status"
        data-test="sent"
        :data-waiting="here.waiting.value"
      >
        {{ sentence }}
      </p>
      <button type="button" class="touch unfold" :aria-expanded="more" @click="more = !more">More</button>
      <div class="settings" :class="{ unfolded: more }">
        <PickField
          v-if="coats.length > 1"
          v-model="chosen"
          class="day-text"
          bare
          open
          label="Coat of the day"
          none="Where the day is"
          :options="Object.fromEntries(coats.map((c) => [c.id, `${c.surface}, coat ${c.number}`]))"
        />
        <PickField
          v-if="crew.length > 1"
          v-model="who"
          class="day-text"
          bare
          open
          label="Whose device"
          none="Everybody’s"
          :options="Object.fromEntries(crew.map((p) => [p.name, p.name]))"
        />
        <button
          type="button"
          class="touch"
          :aria-pressed="sound"
          @click="((sound = !sound), sound && test())"
        >
          Sound {{ sound ? 'on' : 'off' }}
        </button>
        <button v-if="sound" type="button" class="touch" data-test="hear" @click="test">
          Can you hear me?
        </button>
        <button type="button" class="touch" :aria-pressed="buzz" @click="buzz = !buzz">
          Vibration {{ buzz ? 'on' : 'off' }}
        </button>
        <button
          v-if="lamp.known"
          type="button"
          class="touch"
          :aria-pressed="lamp.lamp.value"
          @click="lamp.turn"
        >
          Lamp {{ lamp.lamp.value ? 'on' : 'off' }}
        </button>
        <button type="button" class="touch" @click="turn">Day or night</button>
        <button type="button" class="touch" data-test="hand" @click="right = !right">
          {{ right ? 'Right' : 'Left' }} hand
        </button>
        <button type="button" class="touch" data-test="lock" @click="locked = true">Lock</button>
      </div>
    </header>
    <p v-if="here.forked.value" role="alert" class="bar stop" data-test="day-forked">
      The record on the server does not continue what this device saw: {{ here.forked.value }} Keep this
      device as it is, and tell the owner of your company.
    </p>
    <p v-if="here.trouble.value" role="alert" class="bar stop" data-test="day-trouble">
      {{ here.trouble.value }}
    </p>
    <p v-if="here.state.value === 'signed-out'" role="alert" class="bar stop">
      You are signed out. What you logged is kept on this device and sent once you
      <router-link :to="`/sign-in?next=/jobs/${id}/day`">sign in</router-link>.
    </p>
    <p v-if="skew" class="bar" data-test="skew">{{ skew }}</p>
    <p v-if="here.newer.value" class="bar" role="status">
      Plan {{ here.newer.value.number }} was issued while this day runs. What was logged is kept, and a coat
      already started continues with its plan.
      <button type="button" class="touch" @click="here.take">
        Switch to plan {{ here.newer.value.number }}
      </button>
    </p>
    <p v-for="r in here.refused.value" :key="r.event.id" class="bar stop">
      Rejected ({{ kindWords[r.event.kind] }}): {{ plainWords(r.text) }}.
    </p>
    <p v-for="d in here.day.value?.doubts ?? []" :key="d" class="bar" role="status" data-test="doubt">
      {{ d }}
    </p>
    <template v-if="prepares">
      <DayPreparation :here="here" :steps="steps" />
      <DayWaits :waits="here.day.value?.waits ?? []" :now="here.clock.second.value" :zone="here.zone.value" />
    </template>
    <template v-else-if="at && plan && one">
      <div class="head">
        <h2>{{ at.surface }}, coat {{ at.number }}: {{ at.name }}</h2>
        <button
          v-if="here.last.value"
          type="button"
          class="touch"
          data-test="take-back"
          @click="here.strike(here.last.value.id)"
        >
          Void entry: {{ lastEntry }}
        </button>
        <button
          v-if="begun || at.open === 0"
          type="button"
          class="touch"
          :aria-expanded="gates"
          @click="gates = !gates"
        >
          Gates<template v-if="at.open"> ({{ at.open }} open)</template>
        </button>
        <button
          v-if="!at.done"
          type="button"
          class="touch"
          data-test="change-plan"
          :aria-expanded="changing"
          @click="changing = !changing"
        >
          Change of plan
        </button>
        <button v-if="session.mayLead && !closing" type="button" class="touch" @click="closing = true">
          Close the day
        </button>
        <template v-if="closing">
          <button type="button" class="touch warn" @click="close">Yes, it is done</button>
          <button type="button" class="touch" @click="closing = false">Not yet</button>
        </template>
      </div>
      <DayChange
        v-if="changing"
        :here="here"
        :coat="at"
        :plan="plan"
        :batch="number"
        @done="changing = false"
      />
      <DayGates v-if="gates || (!begun && at.open > 0)" :here="here" :coat="at" :plan="plan" />
      <template v-if="begun || at.open === 0">
        <DayNow :here="here" :coat="at" :plan="plan" :parts="parts" :mine="mine">
          <DayFloor
            v-if="surface"
            class="floor"
            :surface="surface"
            :plan="plan"
            :coat="at"
            :chosen="number"
            :ends="reach?.ends"
            @choose="spotting || (number = $event)"
            @place="(where) => spotting && end(where)"
          />
          <button
            v-if="surface?.outline?.length && one?.began"
            type="button"
            class="touch mt-2"
            :aria-pressed="spotting === 'pail'"
            data-test="spot-pail"
            @click="spotting = spotting === 'pail' ? '' : 'pail'"
          >
            {{
              spotting === 'pail'
                ? `Tap the plan where pail ${number} ended`
                : `Mark where pail ${number} ended`
            }}
          </button>
          <template #enough>
            <DayEnough
              v-if="reach && poured"
              :here="here"
              :reach="reach"
              :coat="at"
              :task="poured.id"
              :pail="poured.number"
            >
              <button
                v-if="surface?.outline?.length"
                type="button"
                class="touch"
                :aria-pressed="spotting === 'film'"
                data-test="spot-film"
                @click="spotting = spotting === 'film' ? '' : 'film'"
              >
                {{
                  spotting === 'film' ? 'Tap the plan where the film ends' : 'Mark how far the film reaches'
                }}
              </button>
            </DayEnough>
          </template>
        </DayNow>
        <DayWaits
          :waits="here.day.value?.waits ?? []"
          :now="here.clock.second.value"
          :zone="here.zone.value"
        />
        <DayBatches v-model="number" :coat="at" :plan="plan" :zone="here.zone.value" />
        <DayEntries
          v-model:parts="parts"
          :here="here"
          :plan="plan"
          :surface="at.surface"
          :coats="layers"
          :batch="one"
        />
      </template>
    </template>
    <p v-else-if="!here.trouble.value" class="bar">Reading the day …</p>
  </div>
</template>

<style scoped>
.day {
  padding: 10px 14px 40px;
  display: grid;
  gap: 10px;
}
header,
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.phases {
  display: flex;
  gap: 8px;
}
.settings {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.unfold {
  display: none;
}
.title {
  flex: 1;
  min-width: 180px;
}
h1 {
  font-size: 1.25rem;
}
.head h2 {
  flex: 1;
  font-size: 1.35rem;
}
p {
  margin: 0;
}
.sent {
  font-weight: 640;
  padding: 0 6px;
}
.sent.away,
.sent.signed-out {
  color: var(--warn);
}
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  padding: 10px 14px;
  background: var(--paper);
  border: 1px solid var(--line);
  font-size: 1.05rem;
}
.bar.stop {
  border: 2px solid var(--stop);
}
.floor {
  max-height: 180px;
}
@media (max-width: 800px) {
  .title {
    min-width: 120px;
  }
  .unfold {
    display: inline-grid;
  }
  .settings:not(.unfolded) {
    display: none;
  }
  .day {
    padding: 8px;
  }
}
</style>
