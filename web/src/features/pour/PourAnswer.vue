<script setup lang="ts">
import { computed } from 'vue'
import type { Tried } from './usePour'
import { useSession } from '../../session/session'
import { causes, count, limits, percent } from './words'

/** Whether a pour is made, by how much, and how likely. */
const props = defineProps<{ tried: Tried; told: (s: number) => string; title: string }>()
const session = useSession()
const run = computed(() => props.tried.pour.run)
const tight = computed(() => run.value.moments[0])
const people = computed(() => props.tried.pour.crew.length)
/** Odds under these are nothing to begin a pour with: common practice, no source. */
const SURE = 0.75
const unsure = computed(() => run.value.makes && (props.tried.odds?.makes.of ?? 1) < SURE)
const chances = computed(() => {
  const o = props.tried.odds
  if (!o) return []
  return [
    { words: 'a pail is lost', of: o.pail },
    { words: 'wet edge lost', of: o.film },
    { words: 'a lap line shows', of: o.join },
    { words: 'shift overrun', of: o.shift },
    { words: 'daylight ends first', of: o.light },
  ].filter((c) => c.of.of > 0)
})
</script>

<template>
  <div class="answer" :data-test="`answer-${title === 'As planned' ? 'now' : 'tried'}`">
    <p class="small quiet head">{{ title }}</p>
    <p class="verdict" :class="{ late: !run.makes, unsure }">
      {{ count(people, 'person is', 'people are') }}
      {{ !run.makes ? 'not enough' : unsure ? 'barely enough' : 'enough' }}
    </p>
    <p v-if="unsure" class="small" data-test="unsure">
      Enough only if everything goes as planned: with fewer than three in four runs on time, choose a way
      below before you begin.
    </p>
    <p v-if="tight" class="small">
      Critical point {{ told(tight.at) }}: batch {{ tight.batch }},
      <strong
        >{{ session.format('span', Math.abs(tight.slack)) }}
        {{ tight.slack < 0 ? 'too late for' : 'left of' }}</strong
      >
      the {{ limits[tight.limit] }}.
    </p>
    <p class="small">
      {{ count(tried.pour.batches.length, 'batch', 'batches') }}, the first mixed from
      {{ told(run.passages?.[0]?.meets ?? 0) }}, all done at {{ told(run.ends) }}.
    </p>
    <p v-if="!run.known" class="small quiet">
      The sheet does not say how long its film can be worked, so joins are not judged.
    </p>
    <p v-if="run.idle" class="small">
      {{ run.idle }} of them {{ run.idle === 1 ? 'stands' : 'stand' }} by: with more people at work, the rest
      would have to wait.
    </p>
    <p v-if="run.drawn" class="small quiet">Each pail is emptied while it is spread, not all at once.</p>
    <template v-if="tried.odds">
      <p class="small odds" data-test="odds">
        On time in <strong>{{ percent(tried.odds.makes.of) }}</strong> of
        {{ tried.odds.runs.toLocaleString('en') }} simulated runs
        <span class="quiet"
          >({{ percent(tried.odds.makes.low) }} to {{ percent(tried.odds.makes.high) }})</span
        ><template v-for="c in chances" :key="c.words">; {{ c.words }} in {{ percent(c.of.of) }}</template
        ><template v-if="tried.odds.which">, most often batch {{ tried.odds.which }}</template
        >.
        <template v-if="tried.odds.most[0] && tried.odds.makes.of < 1">
          Main cause of delay: {{ causes[tried.odds.most[0].cause] }}.
        </template>
      </p>
    </template>
    <p v-else class="small quiet odds">Simulating variations …</p>
  </div>
</template>

<style scoped>
.answer {
  border: 1px solid var(--line);
  background: var(--paper);
  padding: 8px 12px 10px;
  display: grid;
  gap: 3px;
  align-content: start;
}
p {
  margin: 0;
}
/* What is below stays where it is when the odds come in. */
.odds {
  min-height: 5.6em;
}
.verdict {
  font-size: 1.15rem;
  font-weight: 700;
  color: var(--good);
}
.verdict.unsure {
  color: var(--warn);
}
.verdict.late {
  color: var(--stop);
}
</style>
