<script setup lang="ts">
import { computed, ref } from 'vue'
import type { RecordCoat, RecordCoatDay } from '../../api/client'
import TextField from '../../fields/TextField.vue'
import { useSession } from '../../session/session'
import { minuteTime } from '../../fields/clock'
import DayProduct from './DayProduct.vue'
import type { DayAtJob } from './useDay'

/**
 * What is decided otherwise than planned while a coat is laid: a pail of another size, one more, a smaller crew,
 * another product before it is begun, a section left out, or the rest left for another day.
 */
const props = defineProps<{ here: DayAtJob; coat: RecordCoatDay; plan: RecordCoat; batch: number }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const picks = ['Rain is coming', 'One person is gone', 'The mix does not reach', 'The client wants it so']
const why = ref('')
/** Sections of which nothing is begun. */
const waiting = computed(() => props.coat.batches.filter((b) => b.state === 'waiting').map((b) => b.number))
const one = computed(() => (waiting.value.includes(props.batch) ? props.batch : waiting.value[0]))
const after = computed(() =>
  Math.max(0, ...props.coat.batches.filter((b) => b.meets ?? b.began).map((b) => b.number)),
)
const idOf = (number: number): string => props.plan.batches.find((b) => b.number === number)?.id ?? ''
const reason = computed(() => `${session.me?.name ?? ''}: ${why.value.trim()}`)
const unsaid = computed(() => why.value.trim() === '')
const spares = computed(() => props.plan.spares ?? [])
const HUNDRED = 100
/** The last section that is begun, or the first. */
const over = computed(() => {
  const number = Math.max(1, after.value)
  return props.plan.batches.find((b) => b.number === number)?.card.section ?? 1
})
const QUARTERS: Record<number, string> = { 25: '¼', 50: '½', 75: '¾', 100: 'whole' }
const sizes = computed(() =>
  spares.value.map((s) => ({
    share: s.share,
    text: `${QUARTERS[Math.round(s.share * HUNDRED)] ?? session.format('fraction', s.share)}, ${session.format('mass', s.card.mass)}`,
  })),
)
/** What can be changed now, one at a time. */
type Topic = 'size' | 'more' | 'leaves' | 'product' | 'order' | 'colour' | 'leave-out'
const topics = computed(() => {
  const all: { topic: Topic; text: string; there: boolean }[] = [
    { topic: 'size', text: 'Pail size', there: sizes.value.length > 0 && one.value !== undefined },
    { topic: 'more', text: 'One more pail', there: sizes.value.length > 0 },
    { topic: 'leaves', text: 'Somebody leaves', there: people.value.length > 1 },
    { topic: 'order', text: 'Another order', there: later.value.length > 0 },
    {
      topic: 'product',
      text: 'Another product',
      there: session.mayLead && waiting.value.length === props.coat.batches.length,
    },
    { topic: 'colour', text: 'Another colour', there: cups.value !== undefined },
    { topic: 'leave-out', text: 'Leave out or stop', there: waiting.value.length > 0 },
  ]
  return all.filter((t) => t.there)
})
const topic = ref<Topic>()
/** Cups of the batch at hand that are not poured. */
const cups = computed(() =>
  props.here.day.value?.cups.find((c) => c.coat === props.coat.id && c.left.some((l) => l.makes.length > 0)),
)
async function tint(cup: number, name: string): Promise<void> {
  const body = { cup, text: name, reason: reason.value }
  if (await props.here.log('tinted', idOf(cups.value?.batch ?? 0), body)) emit('done')
}
/** The pail that gets a size. */
const sized = computed<{ test: string; text: string; number: number; over?: number } | undefined>(() => {
  if (topic.value === 'size' && one.value)
    return { test: 'other-size', text: `Mix pail ${String(one.value)} in another size:`, number: one.value }
  if (topic.value !== 'more') return undefined
  return {
    test: 'one-more',
    text: `One more pail, over section ${String(over.value)}:`,
    number: props.plan.batches.length + 1,
    over: over.value,
  }
})
/** Sections that can be laid before their turn. */
const later = computed(() => waiting.value.slice(1))
async function next(number: number): Promise<void> {
  if (await props.here.log('ordered', idOf(number), { reason: reason.value })) emit('done')
}
async function size(number: number, share: number, section?: number): Promise<void> {
  const last = props.plan.batches.at(-1)
  const task = idOf(number) || last?.id.replace(/\d+$/, String(number)) || ''
  const body = { share, reason: reason.value, ...(section ? { over: section } : {}) }
  if (await props.here.log('sized', task, body)) emit('done')
}
/** Who is planned on this coat, and whether they left. */
const people = computed(() =>
  props.plan.crew.map((p) => ({
    name: p.name,
    away: props.coat.away?.includes(p.name) ?? false,
  })),
)
const there = computed(() => people.value.filter((p) => !p.away).length)
const pour = computed(() => `coat/${props.coat.id}/pour`)
async function goes(name: string, away: boolean): Promise<void> {
  if (await props.here.log('gone', pour.value, { text: name, reason: reason.value, yes: away })) emit('done')
}
async function leave(numbers: number[], forGood: boolean): Promise<void> {
  for (const n of numbers)
    if (
      !(await props.here.log('left-out', idOf(n), {
        reason: reason.value,
        ...(forGood ? {} : { yes: false }),
      }))
    )
      return
  emit('done')
}
</script>

<template>
  <section class="change" aria-labelledby="change-title" data-test="change">
    <h2 id="change-title">Change of plan</h2>
    <p>Why? It is logged as a deviation, decided by {{ session.me?.name }}.</p>
    <div class="day-line">
      <button
        v-for="p in picks"
        :key="p"
        type="button"
        class="touch"
        :aria-pressed="why === p"
        @click="why = p"
      >
        {{ p }}
      </button>
      <TextField v-model="why" class="day-text" label="In own words" maxlength="200" />
    </div>
    <p>What?</p>
    <div class="day-line">
      <button
        v-for="t in topics"
        :key="t.topic"
        type="button"
        class="touch"
        :aria-pressed="topic === t.topic"
        :data-topic="t.topic"
        @click="topic = t.topic"
      >
        {{ t.text }}
      </button>
    </div>
    <template v-if="sized">
      <p>{{ sized.text }}</p>
      <div class="day-line" :data-test="sized.test">
        <button
          v-for="s in sizes"
          :key="s.share"
          type="button"
          class="touch main"
          :disabled="unsaid"
          @click="size(sized.number, s.share, sized.over)"
        >
          {{ s.text }}
        </button>
      </div>
    </template>
    <template v-if="topic === 'leaves'">
      <p>The work goes on with fewer; what is left takes longer in proportion.</p>
      <div class="day-line" data-test="leaves">
        <button
          v-for="p in people"
          :key="p.name"
          type="button"
          class="touch main"
          :disabled="unsaid || (!p.away && there < 2)"
          @click="goes(p.name, !p.away)"
        >
          {{ p.away ? `${p.name} is back` : `${p.name} leaves` }}
        </button>
      </div>
    </template>
    <template v-if="topic === 'order'">
      <p>
        Lay next, before section {{ one }}. It gets the number {{ waiting[0] }}, and those between come one
        later each: mark the tape anew. Keep a way out: what is passed over then lies between wet edges.
      </p>
      <div class="day-line" data-test="lay-next">
        <button
          v-for="n in later"
          :key="n"
          type="button"
          class="touch main"
          :disabled="unsaid"
          @click="next(n)"
        >
          Section {{ n }}
        </button>
      </div>
    </template>
    <DayProduct
      v-if="topic === 'product'"
      :here="here"
      :plan="plan"
      :reason="reason"
      :unsaid="unsaid"
      @done="emit('done')"
    />
    <template v-if="topic === 'colour' && cups">
      <p>
        Colours that can still be made of batch {{ cups.batch }}, with their pigment.
        <template v-if="cups.open">
          They run into what lies, wet on wet, until {{ minuteTime(cups.open, here.zone.value) }}; after that
          a cup leaves an edge.
        </template>
        The window of the next coat counts from the last cup.
      </p>
      <div
        v-for="l in cups.left.filter((c) => c.makes.length)"
        :key="l.cup"
        class="day-line"
        :data-cup="l.cup"
      >
        <b class="cup">Cup {{ l.cup }}, {{ l.name }}, {{ session.format('mass', l.mass) }}:</b>
        <button
          v-for="m in l.makes"
          :key="m.name"
          type="button"
          class="touch main"
          :disabled="unsaid"
          @click="tint(l.cup, m.name)"
        >
          <svg class="chip" aria-hidden="true"><rect width="14" height="14" :fill="m.color" /></svg>
          {{ m.name }}, {{ session.format('mass', m.pigment) }}
        </button>
      </div>
    </template>
    <template v-if="topic === 'leave-out'">
      <div class="day-line">
        <button
          v-if="one"
          type="button"
          class="touch warn"
          data-test="leave-out"
          :disabled="unsaid"
          @click="leave([one], true)"
        >
          Leave out section {{ one }}
        </button>
        <button
          v-if="after > 0"
          type="button"
          class="touch warn"
          data-test="stop-here"
          :disabled="unsaid"
          @click="leave(waiting, false)"
        >
          Stop after section {{ after }}:
          {{ waiting.length === 1 ? '1 pail' : `${waiting.length} pails` }}
          another day
        </button>
      </div>
      <p v-if="waiting.length > 1">To leave out another section, choose its batch below first.</p>
    </template>
    <p v-if="topic && unsaid" class="unsaid">Choose why first, or say it in own words.</p>
    <p v-if="waiting.length === 0">Every section is begun: there is nothing left to leave out.</p>
    <div class="day-line">
      <button type="button" class="touch" @click="emit('done')">Go on as planned</button>
    </div>
  </section>
</template>

<style scoped>
.cup {
  align-self: center;
}
.unsaid {
  font-weight: 680;
}
.change {
  display: grid;
  gap: 8px;
  padding: 12px 16px;
  background: var(--paper);
  border: 3px solid var(--warn);
  border-radius: 3px;
}
.day-text {
  flex: 1 1 240px;
}
h2,
p {
  margin: 0;
}
h2 {
  font-size: 1.25rem;
}
@media (max-width: 800px) {
  .day-line {
    display: grid;
    grid-template-columns: 1fr 1fr;
    align-items: stretch;
  }
  .day-text,
  .cup {
    grid-column: 1 / -1;
  }
}
</style>
