<script setup lang="ts">
import { dataOf, useRequest } from '../../api/useRequest'
import { dayTime } from '../../fields/clock'
import TextField from '../../fields/TextField.vue'
import { computed, ref } from 'vue'
import { api, type InstrumentLine, type Point, type SurveyReading } from '../../api/client'
import type { ReadKind } from '../../fields/useReader'
import { useDesk } from '../job/useEditor'
import { newId } from '../job/blank'
import { boxAround } from '../../drawing/figures'
import { useSession } from '../../session/session'
import PickField from '../../fields/PickField.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** Readings of a surface, typed or taken from instruments. */
const desk = useDesk()
const session = useSession()
type Kind = SurveyReading['kind']
const kinds: Record<Kind, { words: string; kind: ReadKind }> = {
  'slab-temperature': { words: 'Slab temperature', kind: 'temperature' },
  'air-temperature': { words: 'Air temperature', kind: 'temperature' },
  'air-humidity': { words: 'Humidity of the air', kind: 'fraction' },
  'material-temperature': { words: 'Material temperature', kind: 'temperature' },
  'slab-humidity': { words: 'In-situ RH (ASTM F2170)', kind: 'fraction' },
  carbide: { words: 'Carbide method (CM), share of mass', kind: 'fraction' },
  emission: { words: 'MVER (ASTM F1869)', kind: 'emission' },
  'plastic-sheet': { words: 'Plastic sheet test 16 h, ASTM D4263 (1 wet, 0 dry)', kind: 'number' },
  'moisture-meter': { words: 'Hand meter', kind: 'number' },
  ph: { words: 'pH', kind: 'number' },
  'pull-off': { words: 'Pull-off strength', kind: 'pressure' },
  flatness: { words: 'Gap under a 2 m straightedge', kind: 'length' },
}
const kind = ref<Kind>('slab-temperature')
const scale = ref('')
const where = ref('')
/** Walls, floors and pieces of a pool or a top, which have no corners of a plan to name. */
const panels = computed(() => [
  ...new Set((desk.surfacePlan.value?.takeoff?.panels ?? []).map((p) => p.name)),
])
const panel = ref('')
/** Time of the reading, where that was not just now. */
const earlier = ref('')
const instruments = ref<InstrumentLine[]>([])
const { trouble, ask } = useRequest()
const asking = ref('')
const readings = computed(() =>
  (desk.surface.value.survey?.readings ?? []).toSorted((a, b) => b.at.localeCompare(a.at)),
)
const CORNERS = 30

async function list(): Promise<void> {
  instruments.value = (await dataOf(api.GET('/api/instruments'))) ?? []
}
void list()

const corners = computed(() => desk.surface.value.floor.outline.slice(0, CORNERS))
const places = computed<[string, string][]>(() => [
  ['middle', 'in the middle'],
  ...corners.value.map((_, i): [string, string] => [String(i), `near corner ${i + 1}`]),
])
/** Where the next readings are taken: near a corner, or in the middle of the plan. */
function place(): Point | undefined {
  const box = boxAround(desk.surface.value.floor.outline)
  if (where.value === 'middle' && box) return { x: (box.left + box.right) / 2, y: (box.bottom + box.top) / 2 }
  return where.value === '' ? undefined : corners.value[Number(where.value)]
}
function placed(at: Point): string {
  const corner = corners.value.findIndex((c) => c.x === at.x && c.y === at.y)
  return corner >= 0 ? `corner ${corner + 1}` : 'the middle'
}

function keep(taken: Omit<SurveyReading, 'id'>[]): void {
  const spot = place()
  desk.editSurface('reading', (s) => {
    if (!s.survey) return
    const by = session.me?.name
    s.survey.readings = [
      ...(s.survey.readings ?? []),
      ...taken.map((t) => ({
        id: newId(),
        by,
        place: spot,
        note: panel.value || undefined,
        ...t,
      })),
    ]
  })
}
function typed(value: number): void {
  const named = kind.value === 'moisture-meter' && scale.value ? scale.value : undefined
  const at = earlier.value ? new Date(earlier.value) : new Date()
  keep([{ kind: kind.value, value, at: at.toISOString(), scale: named }])
}
async function take(instrument: InstrumentLine): Promise<void> {
  asking.value = instrument.id
  trouble.value = ''
  const { data } = await ask(
    api.POST('/api/instruments/{instrument}/reading', {
      params: { path: { instrument: instrument.id } },
    }),
    'The instrument could not be read.',
  )
  if (data) keep(data.values.map((v) => ({ ...v, at: data.at, instrument: data.instrument })))
  asking.value = ''
  await list()
}
function remove(id: string): void {
  desk.editSurface('remove reading', (s) => {
    if (s.survey) s.survey.readings = s.survey.readings?.filter((r) => r.id !== id)
  })
}
function shown(r: SurveyReading): string {
  if (r.kind === 'plastic-sheet') return r.value > 0 ? 'darkened or wet' : 'dry'
  return session.format(kinds[r.kind].kind, r.value) + (r.scale ? ` (${r.scale})` : '')
}
</script>

<template>
  <div data-test="readings">
    <h3>Readings</h3>
    <div v-if="session.mayEdit" class="pair entries">
      <PickField
        v-model="kind"
        label="Measured quantity"
        :options="Object.fromEntries(Object.entries(kinds).map(([id, k]) => [id, k.words]))"
      />
      <QuantityField
        :key="`${kind}-${readings.length}`"
        :kind="kinds[kind].kind"
        label="Reading"
        @update:model-value="typed"
      />
      <PickField
        v-if="panels.length > 0"
        v-model="panel"
        label="Place of the reading"
        none="not noted"
        :options="Object.fromEntries(panels.map((p) => [p, p]))"
      />
      <PickField
        v-if="corners.length > 0"
        v-model="where"
        label="Place of the reading"
        none="not noted"
        :options="places"
      />
      <TextField v-model="earlier" label="Time of the reading" told="if not now" type="datetime-local" />
      <TextField
        v-if="kind === 'moisture-meter'"
        v-model="scale"
        label="Meter scale"
        maxlength="60"
        autocomplete="off"
      />
    </div>
    <p v-if="session.mayEdit && instruments.length > 0" class="row small mt-2">
      <span>or read it from</span>
      <v-btn
        v-for="i in instruments"
        :key="i.id"
        size="small"
        :disabled="asking !== ''"
        :data-test="`take-${i.id}`"
        @click="take(i)"
        >{{ i.name }}{{ i.battery < 0.15 ? ', battery low' : '' }}</v-btn
      >
    </p>
    <p v-if="asking" class="small" role="status">Reading …</p>
    <p v-if="trouble" class="small trouble" role="alert">{{ trouble }}</p>
    <p v-if="readings.length === 0" class="quiet small">
      No readings yet. Each is saved with its time, instrument and person.
    </p>
    <div v-else class="scroll" tabindex="0" role="region" aria-label="Readings taken">
      <table class="figures small">
        <thead>
          <tr>
            <th>Quantity</th>
            <th class="num">Value</th>
            <th>When, by</th>
            <th v-if="session.mayEdit"><span class="hidden">Remove</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in readings" :key="r.id">
            <td>{{ kinds[r.kind].words.split(' (')[0] }}</td>
            <td class="num">{{ shown(r) }}</td>
            <td>
              {{ dayTime(r.at, desk.plan.value.zone) }},
              {{ [r.by, r.instrument, r.place && placed(r.place), r.note].filter(Boolean).join(', ') }}
            </td>
            <td v-if="session.mayEdit" class="num">
              <button
                type="button"
                class="plain"
                :aria-label="`Remove the ${kinds[r.kind].words}`"
                @click="remove(r.id)"
              >
                ✕
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.entries {
  grid-template-columns: repeat(auto-fit, minmax(min(210px, 100%), 1fr));
}
.trouble {
  color: var(--stop);
  font-weight: 600;
}
.hidden {
  position: absolute;
  clip-path: inset(50%);
}
</style>
