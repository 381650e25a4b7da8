<script setup lang="ts">
import PageParts from '../../shell/PageParts.vue'
import { useRequest } from '../../api/useRequest'
import { useThrottleFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  api,
  type PailAnswer,
  type PailQuestion,
  type PlanFile,
  type Product,
  type ShelfLine,
} from '../../api/client'
import BenchCurve from '../../charts/BenchCurve.vue'
import BenchPump from './BenchPump.vue'
import BenchRatio from './BenchRatio.vue'
import BenchSpread from './BenchSpread.vue'
import BenchSurface from '../../charts/BenchSurface.vue'
import ProductField from '../shelf/ProductField.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import { standings } from '../../fields/standings'
import BenchFit from './BenchFit.vue'
import BenchParts from './BenchParts.vue'
import SendToJob from './SendToJob.vue'
import WorkingDetails from '../../fields/WorkingDetails.vue'
import { useSession } from '../../session/session'

/** One pail of one product: how long it lives, what it does left standing, and as a film. */
const props = defineProps<{ id?: string }>()
const route = useRoute()
const router = useRouter()
const session = useSession()
const sheet = ref<Product | null>(null)
const asked = ref<PailQuestion | null>(null)
const answer = ref<PailAnswer | null>(null)
const { trouble, ask: send } = useRequest()
const empty = ref(false)
const HALF_HOUR = 1800
const FIVE = 5
const roughly = (celsius: number): number => Math.round(celsius / FIVE) * FIVE

/** Opens the bench with the product that the company's jobs use most. */
async function usual(): Promise<void> {
  const { ok, data } = await send(api.GET('/api/bench'), 'The bench cannot be opened.')
  // Whoever went on meanwhile stays where they are.
  if (data?.id && route.path === '/bench') await router.replace(`/bench/${data.id}`)
  else empty.value = ok
}

async function start(): Promise<void> {
  if (!props.id) {
    await usual()
    return
  }
  const { data } = await send(
    api.GET('/api/bench/{id}', { params: { path: { id: props.id } } }),
    'This sheet cannot be read.',
  )
  if (!data) return
  sheet.value = data.sheet
  const hardener = typeof route.query.hardener === 'string' ? route.query.hardener : undefined
  asked.value = { ...data.usual, hardener }
}
watch(() => props.id, start, { immediate: true })

let asking: AbortController | undefined
/** Asks what becomes of the pail; a question that another outruns is dropped. */
async function ask(): Promise<void> {
  if (!props.id || !asked.value) return
  asking?.abort()
  const mine = new AbortController()
  asking = mine
  const { data } = await send(
    api.POST('/api/bench/{id}', {
      params: { path: { id: props.id } },
      body: asked.value,
      signal: mine.signal,
    }),
    'This pail cannot be calculated.',
    'The server does not answer. These figures may be out of date.',
  )
  if (mine.signal.aborted) trouble.value = ''
  else answer.value = data ?? answer.value
}
const soon = useThrottleFn(ask, 60, true)
watch(asked, () => void soon(), { deep: true })

function set(by: Partial<PailQuestion>): void {
  if (asked.value) asked.value = { ...asked.value, ...by }
}
function found(line: ShelfLine): void {
  answer.value = null
  void router.push(`/bench/${line.sheet.id}`)
}
/** What a job takes over of this pail: how warm the parts come, where it stands, and the hardener. */
function mixed(file: PlanFile): void {
  const q = asked.value
  if (!q) return
  const at = (value: number) => ({ value, source: 'own-test' as const })
  file.job.mixing = { ...file.job.mixing, a: at(q.a), b: at(q.b), air: at(q.air), standing: q.standing }
  file.job.slab = at(q.slab)
  for (const s of file.job.surfaces) {
    for (const c of s.coats) if (c.product === props.id) c.hardener = q.hardener
  }
}
const hardeners = computed(() =>
  Object.fromEntries((sheet.value?.hardeners ?? []).map((h) => [h.id, h.name])),
)
const handles = computed<(Field | false)[]>(() => {
  const a = asked.value
  if (!a) return []
  const warmth = (label: string, key: 'a' | 'b' | 'air' | 'slab'): Field => ({
    as: 'quantity',
    kind: 'temperature',
    label,
    value: a[key],
    take: (v) => set({ [key]: v }),
  })
  return [
    Object.keys(hardeners.value).length > 0 && {
      as: 'pick',
      label: 'Hardener',
      value: a.hardener,
      options: hardeners.value,
      none: 'standard hardener',
      take: (v) => set({ hardener: v || undefined }),
    },
    {
      as: 'quantity',
      kind: 'mass',
      label: 'In the pail',
      value: a.mass,
      positive: true,
      take: (mass) => set({ mass }),
    },
    warmth('Part A temperature', 'a'),
    warmth('Part B temperature', 'b'),
    warmth('Air', 'air'),
    {
      as: 'pick',
      label: 'Bucket stands',
      value: a.standing,
      options: standings,
      none: 'in the air',
      take: (v) => set({ standing: (v || undefined) as PailQuestion['standing'] }),
    },
    warmth('Slab', 'slab'),
    {
      as: 'quantity',
      kind: 'film',
      label: 'Wet film thickness',
      value: a.film,
      positive: true,
      take: (film) => set({ film }),
    },
    {
      as: 'quantity',
      kind: 'span',
      label: 'Working time needed',
      value: a.needed ?? 0,
      take: (v) => set({ needed: v || undefined }),
    },
    {
      as: 'quantity',
      kind: 'span',
      label: 'Left standing for',
      value: a.stands ?? HALF_HOUR,
      take: (v) => set({ stands: v || undefined }),
    },
  ]
})

const part = ref('pail')
const parts = {
  pail: 'Pot life and pail',
  film: 'Hardeners and film',
  parts: 'Ratio and parts',
  spread: 'Spread and pumps',
}
</script>

<template>
  <div class="page">
    <div class="row mb-3">
      <h1 class="grow">Bench{{ sheet ? `: ${sheet.name}` : '' }}</h1>
      <ProductField
        v-if="session.mayEdit"
        class="product"
        bare
        label="Product on the bench"
        data-test="bench-product"
        :placeholder="sheet ? 'another product' : 'choose a product'"
        @choose="found"
      />
    </div>
    <p v-if="empty" class="quiet">
      Put a two-part product on the shelf, and the bench shows its pot life at any mass and temperature, what
      a batch does left standing, which hardener leaves time enough, and whether a batch was weighed right.
    </p>
    <p v-if="trouble" role="alert" class="mb-2">{{ trouble }}</p>
    <template v-if="asked">
      <FieldGrid :fields="handles" :columns="5" open />
      <template v-if="answer">
        <p class="told" aria-live="polite" data-test="bench-life">
          Mixed at <b>{{ session.format('temperature', answer.mixed) }}</b>,
          {{ session.format('mass', asked.mass) }} can be used for
          <b class="life">{{ session.format('span', answer.life) }}</b><template
            v-if="answer.left < answer.life"
          >
            and leave {{ answer.left > 0 ? session.format('span', answer.left) : 'nothing' }} after mixing and
            standing</template
          >.
          <span v-if="answer.beyond" class="weak" data-test="bench-beyond"
            >Outside the temperature range of the sheet; below it, no longer pot life is assumed.</span
          >
          <span v-if="answer.pail.smokes" class="hot">
            Left standing it gels after {{ session.format('span', answer.pail.gel ?? 0) }}, smokes after
            {{ session.format('span', answer.pail.smokes) }} and reaches about
            {{ session.format('temperature', roughly(answer.pail.peak.temperature)) }}: pour it out at once;
            if one runs hot, carry it outside, leave it, never add water, never seal it.
          </span>
        </p>
        <ul class="more">
          <li v-if="asked.standing" data-test="bench-bath">
            {{ standings[asked.standing] }} this mix would last {{ session.format('span', answer.bath) }}; no
            card counts on cooling a mix after mixing start.
          </li>
          <li data-test="may-stand">
            {{
              answer.mayStand > 0
                ? `At most ${session.format('mass', answer.mayStand)} may be left standing for ${session.format('span', asked.stands ?? HALF_HOUR)} without smoking.`
                : `Not even a cup may be left standing for ${session.format('span', asked.stands ?? HALF_HOUR)}.`
            }}
          </li>
          <li>
            The deepest pour that stays under {{ session.format('temperature', 60) }} on this slab is
            {{ session.format('film', answer.deepest) }}{{ answer.deepest >= 0.0999 ? ' or more' : ''
            }}{{
              answer.deepestBySheet
                ? `; its sheet allows ${session.format('film', answer.deepestBySheet)}, and the smaller of the two counts`
                : '; its sheet states no maximum film'
            }}.
          </li>
        </ul>
        <WorkingDetails :workings="answer.workings" />
        <SendToJob v-if="sheet" what="pail" :sheet="sheet" :whole="mixed" />
        <PageParts v-model="part" class="mt-2 mb-2" :parts="parts" label="Bench" />
        <v-tabs-window v-model="part">
          <v-tabs-window-item value="pail">
            <div class="pair">
              <BenchSurface
                :surface="answer.surface"
                :mass="asked.mass"
                :temperature="answer.mixed"
                @move="(mass, celsius) => set({ mass, a: celsius, b: celsius, air: celsius })"
              />
              <div>
                <BenchCurve title="In the pail" :history="answer.pail" :life="answer.life" />
                <BenchCurve title="Spread on the slab" :history="answer.spread" />
              </div>
            </div>
          </v-tabs-window-item>
          <v-tabs-window-item value="film">
            <div class="pair">
              <section>
                <h2>Hardeners</h2>
                <table class="figures" data-test="hardeners">
                  <thead>
                    <tr>
                      <th>Hardener</th>
                      <th>Ratio</th>
                      <th class="num">Pot life of this batch</th>
                      <th></th>
                    </tr>
                  </thead>
                  <tbody>
                    <tr
                      v-for="h in answer.hardeners"
                      :key="h.id ?? ''"
                      :class="{ now: (asked.hardener ?? '') === (h.id ?? '') }"
                    >
                      <td>{{ h.name }}</td>
                      <td>{{ h.ratio }}</td>
                      <td class="num">{{ session.format('span', h.life) }}</td>
                      <td class="small">
                        {{ h.allowed ? (h.suffice ? 'time enough' : 'too short') : 'slab outside its sheet' }}
                      </td>
                    </tr>
                  </tbody>
                </table>
                <h2 class="mt-4">The film at {{ session.format('temperature', asked.slab) }}</h2>
                <p v-if="answer.stages.length === 0" class="quiet">Its sheet gives no times.</p>
                <table v-else class="figures">
                  <tbody>
                    <tr v-for="s in answer.stages" :key="s.name">
                      <td>{{ s.name }}</td>
                      <td class="num">
                        <span :class="{ weak: s.outside }">{{ session.format('span', s.after) }}</span>
                      </td>
                    </tr>
                  </tbody>
                </table>
              </section>
              <BenchFit :fit="answer.fit" />
            </div>
          </v-tabs-window-item>
          <v-tabs-window-item value="parts">
            <div v-if="sheet && id" class="pair">
              <BenchRatio :id="id" :sheet="sheet" :hardener="asked.hardener" :life="answer.life" />
              <BenchParts
                :id="id"
                :key="`parts-${id}`"
                :hardener="asked.hardener"
                :batch="asked.mass"
                :from="asked.a"
              />
            </div>
          </v-tabs-window-item>
          <v-tabs-window-item value="spread">
            <div v-if="sheet && id" class="pair">
              <BenchSpread
                :id="id"
                :key="`spread-${id}`"
                :sheet="sheet"
                :hardener="asked.hardener"
                :film="asked.film"
              />
              <BenchPump
                v-if="sheet.components.length === 2"
                :id="id"
                :key="`pump-${id}`"
                :sheet="sheet"
                :hardener="asked.hardener"
                :volume="0.003"
              />
            </div>
          </v-tabs-window-item>
        </v-tabs-window>
        <ul class="small quiet notes">
          <li v-for="n in answer.notes" :key="n">{{ n }}</li>
          <li>The data sheet rules; time the first pail and trust it more than this.</li>
        </ul>
      </template>
      <p v-else-if="!trouble" class="quiet">Calculating …</p>
    </template>
  </div>
</template>

<style scoped>
.product {
  flex: 0 1 320px;
}
.told {
  margin: 10px 0;
  font-size: 1.1rem;
}
.life {
  font-size: 1.6rem;
}
.hot {
  display: block;
  margin-top: 4px;
  padding-left: 10px;
  border-left: 6px solid var(--stop);
}
.more {
  margin: 0 0 12px;
  padding-left: 18px;
}
.more li::first-letter {
  text-transform: uppercase;
}
.now td {
  font-weight: 680;
}
.notes {
  margin-top: 16px;
  padding-left: 18px;
}
h2 {
  font-size: 1.05rem;
}
</style>
