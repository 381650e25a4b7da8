<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, type SystemLine } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import FieldGrid from '../../fields/FieldGrid.vue'
import PickField from '../../fields/PickField.vue'
import { entriesRead } from '../../fields/useReader'
import QuantityField from '../../fields/QuantityField.vue'
import TextField from '../../fields/TextField.vue'
import { useSession } from '../../session/session'
import SchoolChoice from '../house/SchoolChoice.vue'
import { useHouseEdits } from '../house/useHouseEdits'
import { useHouseFields } from '../house/useHouseFields'
import HoursFields from '../job/HoursFields.vue'
import { blankFile, blankSurface, newId } from '../job/blank'
import ReadingFields from '../people/ReadingFields.vue'
import { isOwnTool, useShelf } from '../shelf/store'

/** The first hour of a company: how it reads, works and pays, its first product, its first job. */
const session = useSession()
const router = useRouter()
const shelf = useShelf()
const edits = useHouseEdits()
const { house, schools, change, ready } = edits
const { crew, money, chosen, choose } = useHouseFields(edits)
const { trouble, busy, ask } = useRequest()

const parts = {
  reading: 'Units and money',
  crew: 'Hours and crew',
  standards: 'How you work',
  products: 'Products',
  job: 'First job',
}
type Part = keyof typeof parts
const order = Object.keys(parts) as Part[]
const part = ref<Part>('reading')
const at = computed(() => order.indexOf(part.value))
function turn(by: number): void {
  part.value = order[at.value + by] ?? part.value
}

/** The questions that change the most of a plan; the others wait on the page Standards. */
const FIRST_QUESTIONS = ['opening', 'kits', 'laying', 'between']
const asked = computed(() => schools.value.filter((s) => FIRST_QUESTIONS.includes(s.id)))

const systems = ref<SystemLine[]>([])
async function look(): Promise<void> {
  const [{ data }] = await Promise.all([
    ask(api.GET('/api/systems'), 'The systems cannot be read.'),
    shelf.load(),
  ])
  systems.value = data ?? []
}
void look()
const sampled = computed(() => shelf.lines.some((l) => l.sheet.sample))
async function addSamples(): Promise<void> {
  const { data } = await ask(api.POST('/api/samples'), 'The samples were not added.')
  if (!data) return
  systems.value = data
  await shelf.load()
}

const name = ref('')
const area = ref<number>()
const system = ref('')
const floors = computed(() => systems.value.filter((l) => l.system.for === 'floor'))
const line = computed(() => floors.value.find((l) => l.system.id === system.value) ?? floors.value[0])
const fault = ref('')
async function begin(): Promise<void> {
  fault.value = (await entriesRead()) || (area.value ? '' : 'Enter the area, such as 40 m² or 430 ft².')
  if (fault.value || !area.value) return
  const tools = shelf.media.filter(isOwnTool)
  const file = blankFile(name.value.trim() || 'First job', '', session.units, house.value, tools)
  const surface = blankSurface('Floor 1')
  surface.given = { area: area.value, note: '' }
  if (line.value) {
    surface.coats = line.value.system.coats.map((c) => ({ ...c, id: newId() }))
    file.products = line.value.products
    if (line.value.media.length > 0) file.media = [...tools, ...line.value.media]
  }
  file.job.surfaces = [surface]
  const { data } = await ask(api.POST('/api/jobs', { body: file }), 'The job was not added.')
  if (data) await router.push(`/jobs/${data.id}/kits`)
}
</script>

<template>
  <div class="page start">
    <h1>Set up your company</h1>
    <p class="quiet mb-3">
      Five short steps; skip any of them. What you set is found again under Standards, Shelf and Account.
    </p>
    <v-tabs v-model="part" class="choices mb-3" hide-slider aria-label="Steps">
      <v-tab v-for="(title, id, n) in parts" :key="id" :value="id" :data-part="id">
        <span>{{ n + 1 }} {{ title }}</span>
      </v-tab>
    </v-tabs>
    <p v-if="trouble || edits.trouble.value" role="alert">{{ trouble || edits.trouble.value }}</p>
    <v-tabs-window v-model="part" class="sheet step">
      <v-tabs-window-item value="reading">
        <ReadingFields />
        <FieldGrid v-if="ready" class="mt-3" :fields="money" :columns="2" :locked="!session.mayKeep" />
      </v-tabs-window-item>
      <v-tabs-window-item value="crew">
        <template v-if="ready">
          <FieldGrid :fields="crew" :columns="3" :locked="!session.mayKeep" />
          <HoursFields
            class="mt-3"
            :hours="house.hours"
            :locked="!session.mayKeep"
            @change="change({ hours: $event })"
          />
        </template>
      </v-tabs-window-item>
      <v-tabs-window-item value="standards">
        <p class="mb-3">
          Where practice differs, your plans follow your choice. These four change the most; the rest are on
          the page <router-link to="/house">Standards</router-link>.
        </p>
        <div class="questions">
          <SchoolChoice
            v-for="s in asked"
            :key="s.id"
            :school="s"
            :value="chosen(s)"
            :locked="!session.mayKeep"
            @choose="choose(s, $event)"
          />
        </div>
      </v-tabs-window-item>
      <v-tabs-window-item value="products">
        <p class="mb-3" data-test="shelf-state">
          {{
            shelf.total === 0
              ? 'The shelf is empty: a plan needs at least one product.'
              : `${shelf.total} ${shelf.total === 1 ? 'product is' : 'products are'} on the shelf.`
          }}
        </p>
        <div class="ways">
          <div>
            <v-btn
              variant="flat"
              color="primary"
              :disabled="sampled || busy || !session.mayKeep"
              data-test="add-samples"
              @click="addSamples"
              >Add samples</v-btn
            >
            <p class="small quiet">
              Six sheets and four systems with typical figures, marked as samples; nobody sells them.
            </p>
          </div>
          <div>
            <v-btn to="/shelf/sheet" data-test="read-sheet">Read a maker’s data sheet</v-btn>
            <p class="small quiet">A PDF or its text: each value with its line, what is missing named.</p>
          </div>
          <div>
            <v-btn to="/shelf/new">Enter a data sheet</v-btn>
            <p class="small quiet">
              Ten entries are enough for mix cards: name, kind, ratio, solids, density, pot life, film and
              kits.
            </p>
          </div>
          <div>
            <v-btn to="/shelf/read">Import a file</v-btn>
            <p class="small quiet">JSON or CSV, such as another company of yours exported it.</p>
          </div>
        </div>
      </v-tabs-window-item>
      <v-tabs-window-item value="job">
        <p v-if="floors.length === 0" class="mb-3">
          There is no system for floors yet:
          <button type="button" class="plain link" @click="part = 'products'">add samples or a product</button
          >, or begin with the area alone.
        </p>
        <form class="job" @submit.prevent="begin">
          <TextField v-model="name" label="Name of the job" placeholder="First job" maxlength="160" />
          <QuantityField
            kind="area"
            label="Area"
            :model-value="area"
            positive
            @update:model-value="((area = $event), (fault = ''))"
          />
          <PickField
            v-if="floors.length"
            label="System"
            :model-value="line?.system.id"
            :options="Object.fromEntries(floors.map((l) => [l.system.id, l.system.name]))"
            @update:model-value="system = $event"
          />
          <p v-if="fault" role="alert" class="late">{{ fault }}</p>
          <v-btn type="submit" variant="flat" color="primary" :disabled="busy" data-test="begin"
            >Show kits and price</v-btn
          >
        </form>
      </v-tabs-window-item>
    </v-tabs-window>
    <div class="row mt-3">
      <v-btn :disabled="at === 0" @click="turn(-1)">‹ Back</v-btn>
      <v-btn v-if="at < order.length - 1" data-test="next" @click="turn(1)">Next ›</v-btn>
      <span class="grow" />
      <v-btn variant="text" to="/jobs">Leave the set-up</v-btn>
    </div>
  </div>
</template>

<style scoped>
.start {
  max-width: 980px;
}
.step {
  padding: 16px 20px;
}
.questions {
  columns: 2;
  column-gap: 14px;
}
.ways {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 18px;
}
.ways p {
  margin-top: 6px;
}
.job {
  display: grid;
  gap: 12px;
  max-width: 420px;
}
.link {
  text-decoration: underline;
}
.late {
  color: var(--stop);
  font-weight: 640;
}
@media (max-width: 800px) {
  .questions {
    columns: 1;
  }
}
</style>
