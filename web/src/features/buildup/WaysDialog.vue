<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, type Fix, type PlanFile, type Side, type SystemLine } from '../../api/client'
import { differences } from '../../api/patch'
import { dataOf, useRequest } from '../../api/useRequest'
import { dayTime } from '../../fields/clock'
import PickField from '../../fields/PickField.vue'
import { useHouse } from '../house/store'
import { kindOf } from '../job/blank'
import { useDesk } from '../job/useEditor'
import { money } from '../../session/units'
import { useSession } from '../../session/session'
import { percent } from '../pour/words'
import { beginWith } from './beginWith'

/** Two ways of the same surfaces side by side: what each costs, takes and risks. */
const open = defineModel<boolean>({ required: true })
const desk = useDesk()
const session = useSession()
const house = useHouse()
const systems = ref<SystemLine[]>([])
const { trouble, busy, ask } = useRequest()
const SYSTEM = 'system'
const subject = ref(SYSTEM)
const other = ref('')
const sides = ref<Side[]>([])
const patch = ref<Fix['patch']>([])

const methods = computed<Record<string, unknown>>(() => ({ ...desk.file.value.job.methods }))
const school = computed(() => house.schools.find((s) => s.id === subject.value))
const answer = computed(() => {
  const own = methods.value[subject.value]
  return typeof own === 'string' ? own : (school.value?.choices[0]?.value ?? '')
})
const subjects = computed<[string, string][]>(() => [
  [SYSTEM, `System on ${desk.surface.value.name}`],
  ...house.schools.map((s): [string, string] => [s.id, s.title]),
])
const others = computed<[string, string][]>(() =>
  school.value
    ? school.value.choices.filter((c) => c.value !== answer.value).map((c) => [c.value, c.name])
    : systems.value
        .filter((l) => l.system.for === kindOf(desk.surface.value))
        .map((l) => [l.system.id, l.system.name]),
)
const names = computed(() => [
  `As planned${school.value ? `: ${school.value.choices.find((c) => c.value === answer.value)?.name ?? ''}` : ''}`,
  others.value.find(([id]) => id === other.value)?.[1] ?? '',
])

/** The job with the other way taken. */
function changed(): PlanFile | undefined {
  const file = JSON.parse(JSON.stringify(desk.file.value)) as PlanFile
  if (school.value) {
    file.job.methods = { ...file.job.methods, [subject.value]: other.value }
    return file
  }
  const line = systems.value.find((l) => l.system.id === other.value)
  const surface = file.job.surfaces.find((s) => s.id === desk.surface.value.id)
  if (!line || !surface) return undefined
  beginWith(line, surface, file)
  return file
}
async function compare(): Promise<void> {
  sides.value = []
  const file = other.value ? changed() : undefined
  if (!file) return
  const asked = other.value
  patch.value = differences(desk.file.value, file) as Fix['patch']
  const { data } = await ask(
    api.POST('/api/jobs/{job}/ways', {
      params: { path: { job: desk.jobId } },
      body: { ways: [[], patch.value] },
    }),
    'The ways cannot be compared.',
  )
  if (data && asked === other.value) sides.value = data
}
watch(subject, () => (other.value = ''))
watch(other, () => void compare())
watch(open, async (now) => {
  if (!now) return
  other.value = ''
  sides.value = []
  void house.load()
  systems.value = (await dataOf(api.GET('/api/systems'))) ?? []
})

const price = (v?: number): string =>
  v === undefined ? 'not priced' : money(v, desk.file.value.job.currency)
const HOUR = 3600
const rows = computed(() => {
  const of = (name: string, told: (s: Side) => string): { name: string; told: string[] } => ({
    name,
    told: sides.value.map(told),
  })
  return [
    of('Kits, materials and hours', (s) => price(s.total)),
    of('Kits', (s) => `${session.format('count', s.line.kits)} · ${price(s.line.cost)}`),
    of(
      'Other materials',
      (s) => price(s.line.others) + (s.line.lacking > 0 ? `, ${s.line.lacking} without a price` : ''),
    ),
    of(
      'Work',
      (s) =>
        `${session.format('number', s.line.effort / HOUR)} h` +
        (s.line.labour === undefined ? '' : ` · ${price(s.line.labour)}`),
    ),
    of('Nights', (s) => (s.nights === undefined ? 'not known' : session.format('count', s.nights))),
    of('First use from', (s) => (s.line.ready ? dayTime(s.line.ready, desk.plan.value.zone) : 'not known')),
    of('Batches', (s) => session.format('count', s.line.batches)),
    of('Pours on time', (s) =>
      s.odds ? `${percent(s.odds.of)} of the runs; least sure: ${s.hardest}` : 'not known',
    ),
  ]
})
function takeIt(): void {
  desk.take({ label: names.value[1] ?? 'The other way', patch: patch.value })
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="1100" scrollable aria-label="Two ways side by side">
    <div class="sheet pa-5 inner">
      <h2 class="mb-2">Two ways side by side</h2>
      <p class="quiet small mb-3">
        Both begin with the next shift, or with the first after the start of the job, without what is booked.
        Nothing changes until you use one.
      </p>
      <div class="pair mb-3">
        <PickField
          label="What differs"
          open
          :options="subjects"
          :model-value="subject"
          @update:model-value="subject = $event || SYSTEM"
        />
        <PickField
          label="The other way"
          open
          none="choose …"
          :options="others"
          :model-value="other"
          @update:model-value="other = $event"
        />
      </div>
      <p v-if="trouble" role="alert" class="mb-2">{{ trouble }}</p>
      <v-progress-linear v-if="busy" indeterminate aria-label="Comparing" />
      <p v-if="others.length === 0" class="quiet">No system for this kind of surface yet.</p>
      <div
        v-if="sides.length === 2"
        class="scroll"
        tabindex="0"
        role="region"
        aria-label="What each way comes to"
      >
        <table class="figures ways" data-test="ways">
          <thead>
            <tr>
              <th><span class="hidden">Figure</span></th>
              <th v-for="(n, i) in names" :key="i">{{ n }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in rows" :key="r.name" :class="{ moved: r.told[0] !== r.told[1] }">
              <th scope="row">{{ r.name }}</th>
              <td v-for="(t, i) in r.told" :key="i">{{ t }}</td>
            </tr>
            <tr
              v-for="list in [
                { name: 'Costs and risks of its own', of: 'risks' as const },
                { name: 'Warnings', of: 'doubts' as const },
                { name: 'What is done', of: 'steps' as const },
              ]"
              :key="list.of"
            >
              <th scope="row">{{ list.name }}</th>
              <td v-for="(s, i) in sides" :key="i">
                <ul class="small">
                  <li v-for="(line, k) in s[list.of]" :key="k">{{ line }}</li>
                </ul>
                <span v-if="s[list.of].length === 0" class="quiet small">none</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="row mt-4">
        <v-btn
          v-if="session.mayEdit && sides.length === 2"
          color="primary"
          variant="flat"
          data-test="use-way"
          @click="takeIt"
          >Use {{ names[1] }}</v-btn
        >
        <v-btn variant="text" @click="open = false">Close</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.inner {
  overflow-y: auto;
}
.ways {
  width: 100%;
}
.ways th,
.ways td {
  vertical-align: top;
  text-align: left;
}
.ways tbody th {
  padding-top: 9px;
  border-bottom: 1px solid var(--faint);
}
.ways td {
  width: 40%;
}
.ways tr.moved td {
  font-weight: 640;
}
.ways ul {
  margin: 0;
  padding-left: 18px;
}
</style>
