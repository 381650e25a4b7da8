<script setup lang="ts">
import { keyOf } from '../../drawing/roster'
import { computed } from 'vue'
import { dayTime } from '../../fields/clock'
import type { WayOut } from '../../api/client'
import { type Roster } from './useRoster'
import FoldPanel from '../../fields/FoldPanel.vue'

/** What a proposal costs, what no longer holds, and what fits nowhere. */
const props = defineProps<{ roster: Roster; job?: string; movable?: boolean }>()
const emit = defineEmits<{ choose: [key: string] }>()
const view = computed(() => props.roster.view.value)
const MINUTES = 60
/** So many jobs that are left out are told unasked. */
const FEW = 3
const cost = computed(() => {
  const by = new Map((view.value?.objective ?? []).map((p) => [p.part, p]))
  const value = (part: string): number => by.get(part as 'late')?.value ?? 0
  const late = (view.value?.jobs ?? []).filter((j) => j.late).length
  return [
    late === 0 ? 'nothing is late' : `${late} ${late === 1 ? 'job is' : 'jobs are'} late`,
    value('bought') === 0
      ? 'all recoat windows met'
      : `${value('bought')} recoat windows missed, sanding added`,
    value('overtime') === 0
      ? 'no overtime'
      : `${Math.round((value('overtime') * (view.value?.step ?? 0) * 10) / MINUTES) / 10} h of overtime`,
    moves.value.length === 1 ? '1 booking moves' : `${moves.value.length} bookings move`,
  ].join(', ')
})
/** How sure it is that no plan is better. */
const proof = computed(() => {
  const parts = view.value?.objective ?? []
  if (view.value?.optimal) return 'No better plan exists.'
  const first = parts.find((p) => !p.proven)
  if (!first) return ''
  const names = {
    late: 'lateness',
    bought: 'missed windows',
    overtime: 'overtime',
    travel: 'travel',
    finish: 'its end',
    moves: 'bookings moved',
  }
  return first.part === 'late'
    ? 'A better plan may exist.'
    : `Optimal as to what comes before ${names[first.part]}; the rest is not proven.`
})
const moves = computed(() => mine(view.value?.moves))
const broken = computed(() => mine(view.value?.broken))
const late = computed(() =>
  (view.value?.jobs ?? []).filter((j) => j.late && (!props.job || j.id === props.job)),
)
const mine = <T extends { job: string }>(all: T[] | undefined): T[] =>
  (all ?? []).filter((one) => !props.job || one.job === props.job)
/** What is over and nothing tells of, and what has little time left after what was. */
const asked = computed(() => mine(view.value?.asked))
const tight = computed(() => mine(view.value?.follows).filter((f) => f.fit === 'tight'))
const left = computed(() => (view.value?.left ?? []).filter((l) => !props.job || l.job === props.job))
const helpable = computed(
  () =>
    props.roster.proposal.value &&
    (view.value?.conflict ||
      (view.value?.objective ?? []).some((p) => ['late', 'bought'].includes(p.part) && p.value > 0)),
)
const attempted = computed(() => {
  const t = JSON.stringify(props.roster.tried.value)
  const told = (props.roster.ways.value ?? []).find((w) => JSON.stringify(w.try) === t)
  return told?.text ?? 'Another crew'
})
function helps(w: WayOut): string {
  const parts = [
    w.late > 0 ? `${w.late} h total delay` : 'nothing is late',
    w.bought > 0
      ? `${w.bought} ${w.bought === 1 ? 'window' : 'recoat windows'} missed`
      : 'all recoat windows met',
  ]
  if (w.overtime > 0) parts.push(`${w.overtime} h of overtime`)
  if (w.cost) parts.push(`about ${Math.round(w.cost)} ${view.value?.currency ?? ''}`.trim())
  return parts.join(', ')
}
</script>

<template>
  <div v-if="view" class="answer">
    <p v-if="roster.proposal.value && !view.conflict" class="proposal" data-test="proposal">
      <strong v-if="roster.tried.value">Trial, not booked. {{ attempted }}:</strong>
      <strong v-else>A proposal, not booked yet:</strong> {{ cost }}. <span class="quiet">{{ proof }}</span>
    </p>
    <FoldPanel
      v-if="roster.proposal.value && moves.length > 0"
      class="small"
      :open="moves.length <= FEW"
      title="What moves, and why"
      data-test="moves"
    >
      <ul>
        <li v-for="m in moves" :key="keyOf(m)">
          <button type="button" class="plain" @click="emit('choose', keyOf(m))">
            {{ roster.names.value.get(m.job) }}</button>: {{ roster.tasks.value.get(keyOf(m))?.name }}, was
          {{ dayTime(m.from, view.zone) }}. {{ m.text }}
        </li>
      </ul>
    </FoldPanel>
    <div v-if="view.conflict" class="conflict" role="alert" data-test="conflict">
      <p>{{ view.conflict.text }}</p>
      <p v-if="view.conflict.ways.length > 0" class="small">Ways out: {{ view.conflict.ways.join('; ') }}.</p>
    </div>
    <div v-if="helpable" class="small ways" data-test="ways-out-of-it">
      <button
        v-if="!roster.ways.value"
        type="button"
        class="plain"
        data-test="what-helps"
        @click="roster.lookForWays"
      >
        What would help?
      </button>
      <p v-else-if="roster.ways.value.length === 0">
        Saturday work, another crew, an earlier start or another hardener would not help.
      </p>
      <ul v-else>
        <li v-for="w in roster.ways.value" :key="w.text">
          <strong>{{ w.text }}</strong>: {{ helps(w) }}
          <span v-for="text in w.warns ?? []" :key="text" class="warns">But: {{ text }}</span>
          <button type="button" class="plain" @click="roster.attempt(w)">Try it</button>
        </li>
      </ul>
    </div>
    <div v-if="asked.length > 0" class="asked" role="status" data-test="asked">
      <p>Was it done?</p>
      <ul>
        <li v-for="b in asked.slice(0, FEW)" :key="keyOf(b)">
          <router-link :to="`/jobs/${b.job}/days`">{{ roster.names.value.get(b.job) }}</router-link>:
          {{ b.text }}
          <template v-if="movable && !roster.proposal.value">
            <v-btn
              size="small"
              class="ml-2"
              data-test="done-as-booked"
              :aria-label="`Done as booked: ${b.text}`"
              @click="roster.settle(b, true)"
              >Done as booked</v-btn
            >
            <v-btn
              size="small"
              variant="text"
              data-test="not-done"
              :aria-label="`Not done: ${b.text}`"
              @click="roster.settle(b, false)"
              >Not done</v-btn
            >
          </template>
        </li>
      </ul>
      <p v-if="asked.length > 1" class="small quiet">
        <template v-if="asked.length > FEW">and {{ asked.length - FEW }} more</template>
        <v-btn
          v-if="movable && !roster.proposal.value"
          size="small"
          variant="text"
          data-test="all-done"
          @click="roster.settleAll(asked)"
          >All {{ asked.length }} done as booked</v-btn
        >
      </p>
    </div>
    <div v-if="tight.length > 0" class="asked" role="status" data-test="tight">
      <p>Little time left after what was logged:</p>
      <ul>
        <li v-for="f in tight" :key="keyOf(f)">
          <button type="button" class="plain" @click="emit('choose', keyOf(f))">
            {{ roster.names.value.get(f.job) }}</button>: {{ f.text }}
        </li>
      </ul>
    </div>
    <div v-if="broken.length > 0" class="conflict" role="alert" data-test="broken">
      <p>
        {{
          broken.length === 1 ? 'One booking no longer holds' : `${broken.length} bookings no longer hold`
        }}. Re-plan to fix it.
      </p>
      <ul>
        <li v-for="b in broken.slice(0, 6)" :key="keyOf(b)">
          <button type="button" class="plain" @click="emit('choose', keyOf(b))">
            {{ roster.names.value.get(b.job) }}</button>:
          {{ b.text }}
        </li>
      </ul>
    </div>
    <p v-for="j in late" :key="j.id" class="small">
      <strong>{{ j.name }}</strong> is due {{ j.due }} and done
      {{ j.done ? dayTime(j.done, view.zone) : 'later' }}.
    </p>
    <FoldPanel v-if="left.length > 0" class="small" :open="left.length < FEW" data-test="left">
      <template #title
        >{{ left.length === 1 ? 'One job is' : `${left.length} jobs are` }} not on the roster</template
      >
      <p v-for="l in left" :key="l.job" class="quiet">
        <router-link v-if="l.job" :to="`/jobs/${l.job}/measure`">{{ l.name }}</router-link><template v-else>{{
          l.name
        }}</template
        >: {{ l.text }} {{ l.way }}
      </p>
    </FoldPanel>
    <p v-if="!job && view.unknown.length > 0" class="small quiet" data-test="unknown-ways">
      No way is known to {{ view.unknown.join(', ') }}, so crews are planned to be there at once. Enter
      coordinates of the site or the drive from the yard.
    </p>
  </div>
</template>

<style scoped>
.proposal {
  border-left: 5px solid var(--cure);
  padding: 6px 12px;
  background: var(--faint);
}
.asked {
  border-left: 5px solid var(--warn);
  padding: 6px 12px;
  margin: 6px 0;
}
.conflict {
  border-left: 5px solid var(--stop);
  padding: 6px 12px;
  margin: 6px 0;
}
.plain {
  text-decoration: underline;
}
.warns {
  display: block;
}
.ways {
  margin: 6px 0;
}
ul {
  margin: 4px 0 0 18px;
}
</style>
