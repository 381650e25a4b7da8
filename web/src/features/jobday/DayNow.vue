<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Card, RecordBatchDay, RecordCoat, RecordCoatDay, RecordKind, RecordSay } from '../../api/client'
import { leftTime, minuteTime } from '../../fields/clock'
import TimeLeft from './TimeLeft.vue'
import CardCups from '../cards/CardCups.vue'
import DayLate from './DayLate.vue'
import type { DayAtJob } from './useDay'

/** What to do now, what comes next and when, what to watch. */
const props = defineProps<{
  here: DayAtJob
  coat: RecordCoatDay
  plan: RecordCoat
  parts: { a?: number; b?: number }
  /** Reports whether a sentence is for whoever holds this device. */
  mine: (say: RecordSay) => boolean
}>()
const own = computed(() => props.coat.now.filter(props.mine))
const others = computed(() => props.coat.now.filter((s) => !props.mine(s)))
const MILLIS = 1000
const now = computed(() => props.here.clock.second.value)
interface Act {
  kind: RecordKind
  name: string
}
const acts: Partial<Record<RecordSay['do'], Act>> = {
  meet: { kind: 'meets', name: 'Start mixing A + B' },
  mix: { kind: 'mixed', name: 'Mixed: one colour, no streaks' },
  pour: { kind: 'poured', name: 'Pouring it out' },
  spread: { kind: 'spread', name: 'All spread' },
  roll: { kind: 'rolled', name: 'Rolled: do not touch it again' },
}
/** What the time left runs to, where it is no limit of the mix or the film. */
const limits: Partial<Record<RecordSay['do'], string>> = {
  mix: 'of mixing',
  stand: 'until it may be poured',
}
const dayOf = (say: RecordSay): RecordBatchDay | undefined =>
  props.coat.batches.find((o) => o.number === say.batch)
/** The card of a batch of several cups, while they are coloured and poured. */
const cupped = (say: RecordSay): Card | undefined => {
  const card = props.plan.batches.find((o) => o.number === say.batch)?.card
  return card?.cups?.length && ['mix', 'pour', 'spread'].includes(say.do) ? card : undefined
}
/** The number of the cup that is poured next, from 1; 0 where none is. */
function nextCup(say: RecordSay): number {
  if (say.do !== 'spread') return 0
  return (cupped(say)?.cups?.findIndex((_, n) => !dayOf(say)?.cups?.[n + 1]) ?? -1) + 1
}
function batchOf(say: RecordSay): { id: string; joins: boolean; alone: boolean } {
  const b = props.plan.batches.find((o) => o.number === say.batch)
  const day = dayOf(say)
  return {
    id: b?.id ?? '',
    joins: (b?.beside?.length ?? 0) > 0 && !day?.joined,
    alone: (b?.card.parts.length ?? 0) < 2,
  }
}
function touch(say: RecordSay): void {
  const act = acts[say.do]
  if (!act) return
  const body =
    act.kind === 'meets'
      ? { a: props.parts.a, b: props.parts.b }
      : act.kind === 'mixed'
        ? { saw: 'one colour, no streaks' }
        : {}
  void props.here.log(act.kind, batchOf(say).id, body)
}
/** The batch that is about to be marked lost, asked twice; or that was poured and not logged. */
const losing = ref(0)
const poured = ref(0)
function lose(say: RecordSay): void {
  losing.value = 0
  void props.here.log('lost', batchOf(say).id, { text: 'past its life' })
}
const name = (say: RecordSay): string =>
  say.do === 'meet' && batchOf(say).alone ? 'Opened and stirred now' : (say.act ?? acts[say.do]?.name ?? '')
const away = (at: string): number => (new Date(at).getTime() - now.value) / MILLIS
const HOUR = 3600
function due(at: string): string {
  const s = away(at)
  if (s > HOUR) return `at ${minuteTime(at, props.here.zone.value)}`
  return s > 0 ? `in ${leftTime(s)}` : 'now'
}
</script>

<template>
  <div class="three">
    <section class="now" aria-labelledby="now-title" data-test="now">
      <h2 id="now-title">Now</h2>
      <p v-if="own.length === 0" class="say">Nothing to do yet.</p>
      <div v-for="s in own" :key="`${s.do}${s.batch ?? 0}`" class="item" :class="{ lost: s.do === 'lost' }">
        <p class="say">{{ s.text }}</p>
        <TimeLeft
          v-if="s.until"
          :until="s.until"
          :now="now"
          :of="s.of"
          :name="limits[s.do] ?? 'until its limit'"
        />
        <p v-else-if="s.at && s.do !== 'roll'" class="due">due {{ due(s.at) }}</p>
        <div class="acts">
          <template v-if="s.do === 'lost'">
            <template v-if="losing !== s.batch">
              <button
                type="button"
                class="touch main"
                :aria-expanded="poured === s.batch"
                @click="poured = poured === s.batch ? 0 : (s.batch ?? 0)"
              >
                It was poured in time
              </button>
              <button type="button" class="touch main" @click="losing = s.batch ?? 0">
                No: it is carried outside
              </button>
            </template>
            <template v-else>
              <button type="button" class="touch warn" @click="lose(s)">
                Yes, batch {{ s.batch }} is lost
              </button>
              <button type="button" class="touch" @click="losing = 0">Not yet</button>
            </template>
          </template>
          <button
            v-if="nextCup(s)"
            type="button"
            class="touch main"
            data-act="cup"
            @click="here.log('cup', batchOf(s).id, { cup: nextCup(s) })"
          >
            Cup {{ nextCup(s) }} is poured
          </button>
          <button
            v-if="acts[s.do]"
            type="button"
            class="touch"
            :class="{ main: !nextCup(s) }"
            :data-act="acts[s.do]?.kind"
            @click="touch(s)"
          >
            {{ name(s) }}
          </button>
          <button
            v-if="s.do === 'stand' || (s.do === 'mix' && s.late)"
            type="button"
            class="touch"
            data-act="poured"
            @click="here.log('poured', batchOf(s).id)"
          >
            Already poured
          </button>
          <button
            v-if="s.batch === plan.batches.length && (s.do === 'mix' || s.do === 'pour' || s.do === 'spread')"
            type="button"
            class="touch"
            data-act="rolled"
            @click="here.log('rolled', batchOf(s).id)"
          >
            All of it is laid
          </button>
          <button
            v-if="(s.do === 'roll' || s.do === 'spread') && batchOf(s).joins"
            type="button"
            class="touch"
            data-act="joined"
            @click="here.log('joined', batchOf(s).id)"
          >
            Edge joined
          </button>
        </div>
        <CardCups v-if="cupped(s)" :card="cupped(s)!" :poured="dayOf(s)?.cups" />
        <DayLate
          v-if="s.do === 'lost' && poured === s.batch && dayOf(s)"
          :here="here"
          :batch="dayOf(s)!"
          :kinds="['poured']"
          :parts="parts"
          @told="poured = 0"
        />
      </div>
      <p v-for="s in others" :key="`${s.do}${s.batch ?? 0}`" class="other" data-test="others">
        Others: {{ s.text }}
      </p>
      <slot />
    </section>
    <section class="next" aria-labelledby="next-title" data-test="next">
      <h2 id="next-title">Next</h2>
      <p v-if="coat.next.length === 0" class="quiet">No further pail waits.</p>
      <div v-for="s in coat.next" :key="`${s.do}${s.batch ?? 0}`" class="item">
        <p class="then">{{ s.text }}</p>
        <p v-if="s.at" class="when">{{ due(s.at) }}</p>
        <button
          v-if="acts[s.do] && coat.open === 0 && s === coat.next[0]"
          type="button"
          class="touch"
          :data-act="acts[s.do]?.kind"
          @click="touch(s)"
        >
          {{ name(s) }}
        </button>
      </div>
      <p v-if="coat.paced > 0" class="pace">
        This crew takes {{ coat.pace.toFixed(2) }} × the planned time, by
        {{ coat.paced === 1 ? 'its first section' : `${coat.paced} sections` }}. The last is done at
        <b>{{ minuteTime(coat.ends, here.zone.value) }}</b>.
      </p>
      <p v-else-if="coat.guess" class="pace">
        By coat {{ coat.guess }}, this crew takes {{ coat.pace.toFixed(2) }} × the planned time; the last is
        done at <b>{{ minuteTime(coat.ends, here.zone.value) }}</b>.
      </p>
      <p v-else class="pace">
        The last is done at <b>{{ minuteTime(coat.ends, here.zone.value) }}</b>, as planned.
      </p>
    </section>
    <section
      class="watch"
      :class="{ calm: coat.watch.length === 0 }"
      aria-labelledby="watch-title"
      data-test="watch"
    >
      <h2 id="watch-title">Watch</h2>
      <p v-if="coat.watch.length === 0" class="quiet">No limit is near.</p>
      <div v-for="s in coat.watch" :key="s.text" class="item" :class="{ late: s.late }" role="alert">
        <p class="then">{{ s.text }}</p>
        <TimeLeft v-if="s.until" :until="s.until" :now="now" :of="s.of" name="left" />
      </div>
    </section>
    <slot name="enough" />
  </div>
</template>

<style scoped>
.three {
  display: grid;
  grid-template-columns: 1.5fr 1fr;
  grid-template-areas: 'now next' 'now watch' 'now enough';
  grid-template-rows: auto auto 1fr;
  gap: 10px;
}
.now {
  grid-area: now;
}
.next {
  grid-area: next;
}
.watch {
  grid-area: watch;
}
section {
  padding: 12px 16px 16px;
  background: var(--paper);
  border: 2px solid var(--ink);
  border-radius: 3px;
}
h2 {
  font-size: 1rem;
  color: var(--quiet);
}
p {
  margin: 0;
}
.say {
  font-size: 1.9rem;
  line-height: 1.15;
  font-weight: 720;
}
.item {
  display: grid;
  gap: 10px;
  padding: 10px 0;
}
.item + .item {
  border-top: 2px solid var(--line);
}
.then {
  font-size: 1.25rem;
  font-weight: 680;
}
.when,
.due {
  font-size: 1.6rem;
  font-weight: 720;
  font-variant-numeric: tabular-nums;
}
.pace {
  margin-top: 8px;
  font-size: 1rem;
}
.watch .item {
  padding: 10px 12px;
  border: 3px solid var(--warn);
  background: repeating-linear-gradient(135deg, var(--faint) 0 8px, transparent 8px 16px);
}
.item.lost {
  padding: 12px;
  border: 4px solid var(--stop);
}
.watch .item.late {
  border-color: var(--stop);
}
.other {
  padding: 6px 0;
  color: var(--quiet);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.acts .main {
  flex: 1;
  min-height: 84px;
  font-size: 1.4rem;
}
.right .three {
  grid-template-columns: 1fr 1.5fr;
  grid-template-areas: 'next now' 'watch now' 'enough now';
}
.right .acts {
  flex-direction: row-reverse;
}
@media (max-width: 800px) {
  .right .three {
    grid-template-columns: 1fr;
    grid-template-areas: 'watch' 'now' 'next' 'enough';
  }
  .calm {
    display: none;
  }
  .three {
    grid-template-columns: 1fr;
    grid-template-areas: 'watch' 'now' 'next' 'enough';
    grid-template-rows: none;
  }
  .say {
    font-size: 1.5rem;
  }
}
</style>
