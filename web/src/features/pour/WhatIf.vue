<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import type { Begun, Coat, Fix, PourWay } from '../../api/client'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import { useDesk } from '../job/useEditor'
import { money } from '../../session/units'
import { useSession } from '../../session/session'
import type { Attempt } from './usePour'
import { count, kitPolicies, limits, percent } from './words'

/** Handles on a pour: what would come of other people, another pace, temperature, batch or hour. */
const props = defineProps<{
  coat: Coat
  path: string
  ways: PourWay[]
  /** Nothing has to be helped: every simulated run is on time. */
  sure: boolean
  starts: Begun[]
  /** The pace that the time of the first section tells, m²/s. */
  pace?: number
  /** Along which the work moves now, degrees; none where no floor is cut. */
  direction?: number
}>()
const emit = defineEmits<{ tried: [attempt: Attempt] }>()
const desk = useDesk()
const session = useSession()
const MOST = 50
const USUAL_SLAB = 20
const FULL_TURN = 360
const orders = { '90': 'turned by 90°', '180': 'the other way round' }
interface Handles {
  spreaders?: number
  pace?: number
  slab?: number
  kits?: string
  hardener?: string
  start?: string
  order?: string
  /** s that the first section took. */
  first?: number
}
const own = reactive<Handles>({})
const job = computed(() => desk.file.value.job)
const sheet = computed(() => desk.file.value.products.find((p) => p.id === props.coat.product))
const hardeners = computed(() =>
  Object.fromEntries((sheet.value?.hardeners ?? []).map((h) => [h.id, h.name])),
)
const team = computed(() => (job.value.crew.team?.length ?? 0) > 0)
const ownPeople = computed(() => props.coat.own?.spreaders)

const paced = (value: number): Fix['patch'][number] => ({
  op: 'replace',
  path: props.coat.pace ? `${props.path}/pace/value` : '/job/crew/pace/value',
  value,
})
const patch = computed<Fix['patch']>(() => {
  const steps: Fix['patch'] = []
  if (own.spreaders && ownPeople.value)
    steps.push({ op: 'replace', path: `${props.path}/own/spreaders`, value: own.spreaders })
  else if (own.spreaders) steps.push({ op: 'replace', path: '/job/crew/spreaders', value: own.spreaders })
  if (own.pace) steps.push(paced(own.pace))
  if (own.slab !== undefined)
    steps.push({ op: 'add', path: '/job/slab', value: { value: own.slab, source: 'assumed' } })
  if (own.kits)
    steps.push({ op: 'add', path: `${props.path}/own`, value: { ...props.coat.own, kits: own.kits } })
  if (own.hardener) steps.push({ op: 'add', path: `${props.path}/hardener`, value: own.hardener })
  if (own.order && props.direction !== undefined)
    steps.push({
      op: 'add',
      path: `${props.path.replace(/\/coats\/\d+$/, '')}/layout/direction`,
      value: (props.direction + Number(own.order)) % FULL_TURN,
    })
  if (own.start) steps.push({ op: 'add', path: '/job/start', value: own.start })
  return steps
})
const moved = computed(() => patch.value.length > 0 || own.first !== undefined)
watch([patch, () => own.first], () => emit('tried', { patch: patch.value, first: own.first }))
function clear(): void {
  for (const key of Object.keys(own) as (keyof Handles)[]) own[key] = undefined
}
function take(): void {
  const steps = patch.value.filter((s) => !props.pace || s.path !== paced(0).path)
  desk.take({ label: 'Apply the trial', patch: props.pace ? [...steps, paced(props.pace)] : steps })
  clear()
}
const HOUR_AT = 11
const MINUTE_TO = 16
/** Each hour the work may start at, with what comes of it. */
const hours = computed(() =>
  props.starts.map((b) => ({
    ...b,
    words: b.start.slice(HOUR_AT, MINUTE_TO),
    heard: `Start at ${b.start.slice(HOUR_AT, MINUTE_TO)}: ${b.makes ? 'on time' : 'timing critical'}`,
  })),
)
function takeWay(way: PourWay): void {
  desk.take({ label: way.label, patch: way.patch })
}
const fields = computed<(Field | false)[]>(() => [
  !team.value && {
    as: 'number',
    label: 'People on the floor',
    value: own.spreaders ?? ownPeople.value ?? job.value.crew.spreaders,
    whole: true,
    least: 1,
    most: MOST,
    take: (n) => (own.spreaders = n),
  },
  {
    as: 'quantity',
    kind: 'pace',
    label: 'Pace per person',
    value: own.pace ?? props.coat.pace?.value ?? job.value.crew.pace.value,
    positive: true,
    take: (v) => (own.pace = v),
  },
  {
    as: 'quantity',
    kind: 'temperature',
    label: 'Slab and parts',
    value: own.slab ?? job.value.slab?.value ?? USUAL_SLAB,
    take: (v) => (own.slab = v),
  },
  {
    as: 'pick',
    label: 'Batch size',
    value: own.kits ?? props.coat.own?.kits,
    options: kitPolicies,
    none: 'as the job',
    take: (v) => (own.kits = v || undefined),
  },
  props.direction !== undefined && {
    as: 'pick',
    label: 'Order of sections',
    value: own.order,
    options: orders,
    none: 'as now',
    take: (v) => (own.order = v || undefined),
  },
  {
    as: 'quantity',
    kind: 'span',
    label: 'Time of the first section',
    told: props.pace ? `${session.format('pace', props.pace)} each` : 'on the day, to correct the rest',
    value: own.first,
    positive: true,
    take: (v) => (own.first = v),
  },
  Object.keys(hardeners.value).length > 0 && {
    as: 'pick',
    label: 'Hardener',
    value: own.hardener ?? props.coat.hardener,
    options: hardeners.value,
    none: 'standard hardener',
    take: (v) => (own.hardener = v || undefined),
  },
])
</script>

<template>
  <div class="whatif">
    <h3>What if</h3>
    <FieldGrid :fields="fields" :columns="2" open />
    <div
      v-if="hours.length > 0"
      class="starts"
      role="group"
      aria-label="If the work starts at"
      data-test="starts"
    >
      <span class="small">If the work starts at</span>
      <button
        v-for="h in hours"
        :key="h.start"
        type="button"
        class="start"
        :class="{ late: !h.makes }"
        :aria-label="h.heard"
        :aria-pressed="own.start === h.start"
        @click="own.start = h.start"
      >
        {{ h.words }}{{ h.makes ? '' : ' ✕' }}
      </button>
    </div>
    <div v-if="moved" class="row mt-3">
      <v-btn
        v-if="session.mayEdit"
        size="small"
        color="primary"
        variant="flat"
        data-test="take-over"
        @click="take"
        >Apply to the job</v-btn
      >
      <v-btn size="small" data-test="put-back" @click="clear">Reset</v-btn>
    </div>
    <template v-if="ways.length > 0">
      <h3 class="mt-4">{{ sure ? 'On time already; more room by' : 'What would help' }}</h3>
      <ul class="ways" data-test="ways">
        <li v-for="w in ways" :key="w.label">
          <span class="small">
            <strong>{{ w.label }}</strong>: {{ w.makes ? '' : 'not enough by itself, ' }}on time in
            <b>{{ percent(w.odds.of) }}</b> of the runs, {{ count(w.people, 'person', 'people')
            }}<template v-if="w.cost"
              >, {{ w.cost > 0 ? '+' : '−'
              }}{{ money(Math.abs(w.cost), desk.file.value.job.currency) }}</template
            >,
            {{ session.format('span', Math.abs(w.tight.slack)) }}
            {{ w.tight.slack < 0 ? 'too late for' : 'left of' }} the {{ limits[w.tight.limit] }}
          </span>
          <v-btn v-if="session.mayEdit" size="small" :aria-label="`Apply: ${w.label}`" @click="takeWay(w)"
            >Apply</v-btn
          >
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.starts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  margin-top: 10px;
}
.start {
  font: inherit;
  font-size: 13px;
  font-weight: 640;
  color: var(--good);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 3px 6px;
  cursor: pointer;
}
.start.late {
  color: var(--stop);
  border-style: dashed;
}
.start[aria-pressed='true'] {
  border: 2px solid var(--ink);
}
.ways {
  list-style: none;
  padding: 0;
  margin: 4px 0 0;
  display: grid;
  gap: 4px;
}
.ways li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: center;
}
</style>
