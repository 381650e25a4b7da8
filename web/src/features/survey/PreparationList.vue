<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Preparation, PreparationTask, School, Schools, StepChange, Survey } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import TickField from '../../fields/TickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import PickField from '../../fields/PickField.vue'
import { useHouse } from '../house/store'
import TextField from '../../fields/TextField.vue'
import OwnStepForm from './OwnStepForm.vue'
import StepMenu from './StepMenu.vue'
import TankTimer from './TankTimer.vue'
import { useSteps } from './useSteps'

/** What is to be done before the first coat, in order, and what another school would change. */
const props = defineProps<{ preparation: Preparation }>()
const desk = useDesk()
const session = useSession()
const methods = computed<Schools>(() => desk.file.value.job.methods ?? {})
const house = useHouse()
void house.load()
/** The schools that decide the preparation. */
const deciding: (keyof Schools)[] = ['opening', 'filler', 'levelling', 'between', 'oldPaint']
const low = computed(() => (desk.surface.value.floor?.hollows?.length ?? 0) > 0)
const schools = computed(() =>
  house.schools.filter(
    (s) => deciding.includes(s.id as keyof Schools) && (s.id !== 'levelling' || low.value),
  ),
)
const hours = (seconds: number): string => session.format('span', Math.max(seconds, 0))
const days = (n: number): string => `${session.format('number', n)} days`

function supply(item: {
  name: string
  kind: 'length' | 'area' | 'volume' | 'mass' | 'count'
  value: number
}): string {
  return `${session.format(item.kind, item.value)}${item.kind === 'count' ? ' ×' : ''} ${item.name}`
}
function choose(school: string, choice: string): void {
  desk.editor.edit(`school ${school}`, (f) => {
    f.job.methods = { ...f.job.methods, [school]: choice }
  })
}
function chosen(s: School): string {
  const own = methods.value[s.id as keyof Schools]
  return typeof own === 'string' ? own : (s.choices[0]?.value ?? '')
}
/** A way of opening that comes before the contractor's own one. */
type Also = NonNullable<Survey['also']>[number]
const also = computed(() => desk.surface.value.survey?.also?.[0] ?? '')
const openings = computed(() => {
  const asked = schools.value.find((s) => s.id === 'opening')
  const others = (asked?.choices ?? []).filter((c) => !asked || c.value !== chosen(asked))
  return Object.fromEntries(others.map((c) => [c.value, c.name]))
})
function openFirst(way: string): void {
  desk.editSurface('opening', (s) => {
    if (s.survey) s.survey.also = way ? [way as Also] : undefined
  })
}
function acidInPool(): void {
  desk.editor.edit('acid in pools', (f) => {
    f.job.methods = { ...f.job.methods, acidInPool: f.job.methods?.acidInPool ? undefined : true }
  })
}
function more(n: number, unit: string): string {
  if (Math.abs(n) < 0.05) return 'the same'
  return `${n > 0 ? '+' : '−'}${session.format('number', Math.abs(n))} ${unit}`
}
const steps = useSteps()
/** The step that is being left out, and why. */
const leaving = ref('')
const why = ref('')
/** The own step in hand: a new one where it has none yet. */
const form = ref<{ step?: StepChange }>()
const LEAST = 3
function leave(t: PreparationTask): void {
  const left = why.value.trim()
  if (left.length < LEAST) return
  steps.change(t, 'leave out', { left })
  leaving.value = why.value = ''
}
function keep(step: StepChange): void {
  steps.keepOwn(step)
  form.value = undefined
}
const SECONDS = 3600
const others = computed(() =>
  props.preparation.others.map((o) => ({
    ...o,
    work: more((o.work - props.preparation.work) / SECONDS, 'h work'),
    wait: more((o.drying - props.preparation.drying) / SECONDS, 'h drying'),
    days: more(o.days - props.preparation.days, 'days'),
  })),
)
</script>

<template>
  <div class="preparation" data-test="preparation">
    <div class="row">
      <h3 class="grow">Preparation</h3>
      <span class="figure"
        >{{ hours(preparation.work) }} of work · {{ hours(preparation.drying) }} drying ·
        {{ days(preparation.days) }}</span
      >
    </div>
    <p v-if="preparation.refused" class="refused" role="alert" data-test="refused-school">
      {{ preparation.refused }}
    </p>
    <div class="row small">
      <PickField
        v-for="s in schools"
        :key="s.id"
        :label="s.title"
        :model-value="chosen(s)"
        :options="Object.fromEntries(s.choices.map((c) => [c.value, c.name]))"
        @update:model-value="choose(s.id, $event)"
      />
      <PickField
        label="And before that"
        :model-value="also"
        :options="openings"
        none="nothing else"
        @update:model-value="openFirst"
      />
      <TickField
        v-if="methods.opening === 'etch'"
        label="acid allowed in pools and on plaster"
        :model-value="methods.acidInPool"
        :disabled="!session.mayEdit"
        @update:model-value="acidInPool"
      />
    </div>
    <ol class="tasks">
      <li v-for="(t, i) in preparation.tasks" :key="`${t.id}-${i}`" :data-test="`task-${t.id}`">
        <div class="head">
          <strong>{{ t.name }}</strong>
          <span class="figure small"
            >{{ t.work > 0 ? hours(t.work) : ''
            }}{{ t.drying > 0 ? `, then ${hours(t.drying)} drying` : '' }}</span
          >
          <StepMenu
            v-if="session.mayEdit"
            class="no-print"
            :task="t"
            :first="i === 0"
            :last="i === preparation.tasks.length - 1"
            @earlier="steps.move(preparation.tasks, i, i - 1)"
            @later="steps.move(preparation.tasks, i, i + 1)"
            @passes="steps.change(t, 'passes', { passes: $event })"
            @leave="leaving = t.id"
            @edit="form = { step: steps.ownOf(t) }"
            @remove="steps.change(t, 'remove', { own: undefined, before: undefined, passes: undefined })"
          />
        </div>
        <div v-if="leaving === t.id" class="row">
          <TextField v-model="why" class="grow" :label="`Why is “${t.name}” left out?`" />
          <v-btn size="small" :disabled="why.trim().length < LEAST" data-test="leave-out" @click="leave(t)"
            >Leave it out</v-btn
          >
          <v-btn size="small" variant="text" @click="leaving = ''">Keep it</v-btn>
        </div>
        <p class="small">{{ t.how }}</p>
        <p v-if="t.items.length > 0" class="small">
          <span v-for="item in t.items" :key="item.name" class="item">{{ supply(item) }}</span>
        </p>
        <p class="small"><b>Done when:</b> {{ t.check }}.</p>
        <p v-for="c in t.cautions" :key="c" class="small caution">{{ c }}</p>
      </li>
    </ol>
    <p v-for="l in preparation.left ?? []" :key="l.id" class="small" data-test="left-step">
      Left out: <b>{{ l.name }}</b>. {{ l.why }}
      <v-btn v-if="session.mayEdit" size="small" variant="text" @click="steps.putBack(l.id)">Put back</v-btn>
    </p>
    <OwnStepForm
      v-if="form"
      :key="form.step?.id ?? 'new'"
      :step="form.step"
      @keep="keep"
      @close="form = undefined"
    />
    <div v-else-if="session.mayEdit" class="no-print">
      <v-btn size="small" data-test="add-step" @click="form = {}">Add a step of your own</v-btn>
    </div>
    <p class="quiet small">
      Data sheets and safety data sheets come first; local codes and licensed practice rule.
    </p>
    <TankTimer />
    <FoldPanel v-if="others.length > 0" data-test="schools" title="Compare methods">
      <div class="scroll" tabindex="0" role="region" aria-label="Compare methods">
        <table class="figures small">
          <thead>
            <tr>
              <th>Method</th>
              <th class="num">Work</th>
              <th class="num">Drying</th>
              <th class="num">Days</th>
              <th>Materials</th>
              <th>Risk</th>
              <th v-if="session.mayEdit"><span class="hidden">Choose</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="o in others" :key="o.school + o.choice.value">
              <td>{{ o.choice.name }}</td>
              <td class="num">{{ o.work }}</td>
              <td class="num">{{ o.wait }}</td>
              <td class="num">{{ o.days }}</td>
              <td>
                <span v-for="(item, i) in o.items" :key="i" class="item">{{ supply(item) }}</span>
              </td>
              <td>{{ o.choice.consequence }}</td>
              <td v-if="session.mayEdit">
                <v-btn size="small" @click="choose(o.school, o.choice.value)">Use this method</v-btn>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </FoldPanel>
  </div>
</template>

<style scoped>
.preparation {
  margin-top: 18px;
  display: grid;
  gap: 10px;
}
.refused {
  border-left: 8px double var(--stop);
  padding: 4px 10px;
  font-weight: 620;
}
.tasks {
  padding-left: 22px;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 34px;
}
.head {
  display: flex;
  align-items: center;
  gap: 10px;
}
.head strong {
  flex: 1;
}
.item {
  display: inline-block;
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0 6px;
  margin: 1px 4px 1px 0;
}
.caution {
  border-left: 4px solid var(--warn);
  padding-left: 8px;
}
.hidden {
  position: absolute;
  clip-path: inset(50%);
}
@media (max-width: 900px) {
  .tasks {
    grid-template-columns: 1fr;
  }
}
</style>
