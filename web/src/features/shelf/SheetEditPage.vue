<script setup lang="ts">
import PageParts from '../../shell/PageParts.vue'
import TextField from '../../fields/TextField.vue'
import { applyPatch } from 'fast-json-patch'
import { computed, ref, toRaw } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Product, Source } from '../../api/client'
import AmountsByUse from './AmountsByUse.vue'
import FilmPoints from './FilmPoints.vue'
import ComponentList from './ComponentList.vue'
import CupTest from './CupTest.vue'
import HardenerList from './HardenerList.vue'
import KitList from './KitList.vue'
import KineticsFields from './KineticsFields.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import PickField from '../../fields/PickField.vue'
import OwnOfSheet from '../record/OwnOfSheet.vue'
import PotLifePoints from './PotLifePoints.vue'
import PrintedAmount from '../cards/PrintedAmount.vue'
import TickList from '../../fields/TickList.vue'
import TimePoints from '../../fields/TimePoints.vue'
import { useSheetDraft } from './useSheetDraft'
import { carrierWords, chemistryWords, kindWords } from './kinds'
import {
  filmFields,
  groundWords,
  limitFields,
  mixFields,
  sheetTimes,
  storeFields,
  type SourcedFieldOf,
} from './sheet'
import { sourceWords } from '../../fields/sources'

const props = defineProps<{ id?: string }>()
const route = useRoute()
const router = useRouter()
const copied = typeof route.query.from === 'string' ? route.query.from : undefined
const { draft, asked, judged, faults, trouble, waiting, resumed, saving, save, giveUp } = useSheetDraft(
  props.id,
  copied,
)
const from = ref<Source>('sheet')
const chemistries = Object.fromEntries(Object.entries(groundWords).filter(([k]) => k in chemistryWords))
const looks = { clear: 'clear', light: 'light', dark: 'dark', mixed: 'mixed' }
const suns = { stable: 'stable in daylight', ambers: 'ambers in daylight' }
const damps = { bears: 'tolerates damp', harms: 'damaged by damp' }
const certificates = { food: 'food', potable: 'drinking water' }
const broadcasts = { flake: 'flake', quartz: 'quartz', grit: 'grit', bead: 'bead', pebble: 'pebble' }
const hazards = {
  'skin-sensitiser': 'skin sensitiser',
  isocyanate: 'isocyanate',
  corrosive: 'corrosive',
  flammable: 'flammable',
  dust: 'dust',
}
/** The other ratio, to hold against a printed one. */
const derived = computed(
  () => judged.value?.facts.find((f) => f.name === 'the same by densities')?.words ?? '',
)
const lines = computed(() => ({
  wear: (draft.value?.wear ?? []).join('\n'),
  cautions: (draft.value?.cautions ?? []).join('\n'),
}))
function set(by: Partial<Product>): void {
  if (draft.value) draft.value = { ...draft.value, ...by }
  asked.value = asked.value.filter((k) => !(k in by))
}
type Gap = NonNullable<typeof judged.value>['gaps'][number]
const typical = computed(() => (judged.value?.gaps ?? []).filter((g) => g.typical))
/** Puts what is typical where the sheet says nothing. */
function assume(gaps: Gap[]): void {
  if (!draft.value) return
  const steps = gaps.map((g) => ({ op: 'add' as const, path: g.field, value: g.typical?.value }))
  draft.value = applyPatch(structuredClone(toRaw(draft.value)), steps).newDocument
}
/** A list of words of which one, or none, is chosen. */
function pick(
  label: string,
  key: 'carrier' | 'look' | 'damp' | 'sun',
  options: Record<string, string>,
): Field {
  return {
    as: 'pick',
    label,
    value: draft.value?.[key],
    options,
    none: 'not stated',
    take: (v) => set({ [key]: v || undefined }),
  }
}
function sourced(list: SourcedFieldOf[]): Field[] {
  return list.map(({ key, kind, label }) => ({
    as: 'sourced',
    kind,
    label,
    value: draft.value?.[key],
    from: from.value,
    take: (v) => set({ [key]: v }),
  }))
}
function portion(label: string, key: 'thinnerMax' | 'pigmentMax' | 'solidsMax'): Field {
  return {
    as: 'portion',
    label,
    value: draft.value?.[key],
    from: from.value,
    take: (v) => set({ [key]: v }),
  }
}
const what = computed<Field[]>(() => [
  { as: 'name', label: 'Name of the product', value: draft.value?.name, take: (name) => set({ name }) },
  {
    as: 'pick',
    label: 'Kind of product',
    value: asked.value.includes('kind') ? '' : draft.value?.kind,
    options: kindWords,
    none: asked.value.includes('kind') ? 'choose' : undefined,
    take: (v) => set({ kind: v as Product['kind'] }),
  },
  {
    as: 'pick',
    label: 'Chemistry',
    value: asked.value.includes('chemistry') ? '' : draft.value?.chemistry,
    options: chemistryWords,
    none: asked.value.includes('chemistry') ? 'choose' : undefined,
    take: (v) => set({ chemistry: v as Product['chemistry'] }),
  },
  pick('Carrier', 'carrier', carrierWords),
  pick('Appearance', 'look', looks),
  { as: 'colour', label: 'Colour in drawings', value: draft.value?.color, take: (color) => set({ color }) },
  {
    as: 'name',
    label: 'Use',
    value: draft.value?.use,
    take: (v) => set({ use: v || undefined }),
  },
])
const mix = computed<Field[]>(() => [
  {
    as: 'sourced',
    kind: 'fraction',
    label: 'Volume solids',
    value: draft.value?.volumeSolids,
    from: from.value,
    needed: true,
    take: (v) => v && set({ volumeSolids: v }),
  },
  ...sourced(mixFields),
])
const limits = computed<Field[]>(() => [...sourced(limitFields), pick('Damp tolerance', 'damp', damps)])
const goesWith = computed<Field[]>(() => [
  pick('UV resistance', 'sun', suns),
  ...sourced([{ key: 'abrade', kind: 'number', label: 'Grit for abrading after the window' }]),
  portion('Thinner, at most', 'thinnerMax'),
  portion('Pigment, at most', 'pigmentMax'),
  portion('Fillers, at most', 'solidsMax'),
])
const part = ref('product')
const parts = {
  product: 'Product and mix',
  film: 'Film and amounts',
  times: 'Times',
  conditions: 'Conditions',
  compatibility: 'Compatibility',
  sold: 'Kits, storage, safety',
}
function listed(event: Event): string[] | undefined {
  const all = (event.target as HTMLTextAreaElement).value
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)
  return all.length > 0 ? all : undefined
}
async function keep(): Promise<void> {
  const id = await save()
  if (id) await router.push(`/shelf/p/${id}`)
}
async function leave(): Promise<void> {
  giveUp()
  await router.push(props.id ? `/shelf/p/${props.id}` : '/shelf')
}
</script>

<template>
  <div class="page">
    <div class="row mb-2">
      <h1 class="grow">{{ id ? `Edit ${draft?.name ?? ''}` : 'New sheet' }}</h1>
      <v-btn size="small" variant="text" data-test="give-up" @click="leave">Discard draft</v-btn>
      <v-btn size="small" :disabled="saving" data-test="save-sheet" @click="keep">{{
        id ? 'Save as a new edition' : 'Save to the shelf'
      }}</v-btn>
    </div>
    <p v-if="resumed" class="small quiet">Draft restored from this device.</p>
    <p v-if="trouble" role="alert" class="mb-2">{{ trouble }}</p>
    <PageParts v-if="draft" v-model="part" class="mb-3" :parts="parts" label="Parts of the sheet" />
    <div v-if="draft" class="halves">
      <form @submit.prevent>
        <v-tabs-window v-model="part">
          <v-tabs-window-item value="product" class="part">
            <h2>Product</h2>
            <FieldGrid :fields="what" :columns="3" />
            <h2>Mix</h2>
            <ComponentList :sheet="draft" :from="from" :derived="derived" @update="set" />
            <FieldGrid :fields="mix" :columns="3" />
          </v-tabs-window-item>
          <v-tabs-window-item value="film" class="part">
            <h2>Film</h2>
            <PrintedAmount :model-value="draft.printed" @update:model-value="set({ printed: $event })" />
            <AmountsByUse :model-value="draft.amounts" @update:model-value="set({ amounts: $event })" />
            <FieldGrid :fields="sourced(filmFields)" :columns="3" />
            <FilmPoints
              :model-value="draft.filmMaxAt"
              :from="from"
              @update:model-value="set({ filmMaxAt: $event })"
            />
          </v-tabs-window-item>
          <v-tabs-window-item value="times" class="part">
            <h2>Times</h2>
            <CupTest :pot-life="draft.potLife" @take="set($event)" />
            <PotLifePoints
              v-if="draft.components.length > 1"
              :model-value="draft.potLife"
              :from="from"
              @update:model-value="set({ potLife: $event })"
            />
            <TimePoints
              v-for="t in sheetTimes"
              :key="t.key"
              :label="t.label"
              :model-value="draft[t.key]"
              :from="from"
              @update:model-value="set({ [t.key]: $event })"
            />
            <template v-if="draft.components.length > 1">
              <KineticsFields
                :model-value="draft.kinetics"
                :usual="judged?.reacts"
                @update:model-value="set({ kinetics: $event })"
              />
              <h2>Further hardeners</h2>
              <HardenerList
                :model-value="draft.hardeners"
                :from="from"
                @update:model-value="set({ hardeners: $event })"
              />
            </template>
          </v-tabs-window-item>
          <v-tabs-window-item value="conditions" class="part">
            <h2>Conditions</h2>
            <FieldGrid :fields="limits" :columns="3" />
          </v-tabs-window-item>
          <v-tabs-window-item value="compatibility" class="part">
            <h2>Compatibility</h2>
            <TickList
              label="Compatible substrates"
              :options="groundWords"
              :model-value="draft.over"
              @update:model-value="set({ over: $event as Product['over'] })"
            />
            <TickList
              label="Compatible topcoats"
              :options="chemistries"
              :model-value="draft.under"
              @update:model-value="set({ under: $event as Product['under'] })"
            />
            <TickList
              label="Broadcast allowed"
              :options="broadcasts"
              :model-value="draft.broadcast"
              @update:model-value="set({ broadcast: $event as Product['broadcast'] })"
            />
            <TickList
              label="Certified for"
              :options="certificates"
              :model-value="draft.certified"
              @update:model-value="set({ certified: $event as Product['certified'] })"
            />
            <FieldGrid :fields="goesWith" :columns="3" />
          </v-tabs-window-item>
          <v-tabs-window-item value="sold" class="part">
            <h2>Sold and stored</h2>
            <KitList :model-value="draft.kits" :from="from" @update:model-value="set({ kits: $event })" />
            <FieldGrid :fields="sourced(storeFields)" :columns="3" />
            <h2>Safety</h2>
            <TickList
              label="Hazards (safety data sheet)"
              :options="hazards"
              :model-value="draft.hazards"
              @update:model-value="set({ hazards: $event as Product['hazards'] })"
            />
            <TextField
              :lines="5"
              label="Protective equipment, one to a line"
              :model-value="lines.wear"
              @change="set({ wear: listed($event) })"
            />
            <TextField
              :lines="5"
              label="Cautions, one to a line"
              :model-value="lines.cautions"
              @change="set({ cautions: listed($event) })"
            />
          </v-tabs-window-item>
        </v-tabs-window>
      </form>
      <aside class="facts" aria-live="polite" data-test="judged">
        <PickField
          label="Source of new values"
          :model-value="from"
          :options="sourceWords"
          @update:model-value="from = $event as Source"
        />
        <section v-if="faults.length || waiting">
          <h2>Cannot be saved yet</h2>
          <ul>
            <li v-if="waiting">{{ waiting }}</li>
            <li v-for="f in faults" :key="f">{{ f }}</li>
          </ul>
        </section>
        <section v-if="judged?.doubts.length">
          <h2>Check these values</h2>
          <ul>
            <li v-for="d in judged.doubts" :key="d.text">{{ d.text }}</li>
          </ul>
        </section>
        <section v-if="judged?.gaps.length">
          <h2>Missing data and its effect</h2>
          <p v-if="typical.length" class="small">
            What sheets of this chemistry usually say can be assumed until you know better; it is marked so
            wherever it is used.
            <v-btn size="small" variant="text" data-test="assume-all" @click="assume(typical)"
              >Assume all {{ typical.length }}</v-btn
            >
          </p>
          <ul class="small">
            <li v-for="g in judged.gaps" :key="g.field + g.name">
              <b>{{ g.name }}</b>: {{ g.costs }}.
              <v-btn
                v-if="g.typical"
                size="small"
                variant="text"
                :aria-label="`Assume ${g.name}: ${g.typical.told}`"
                @click="assume([g])"
                >Assume {{ g.typical.told }}</v-btn
              >
            </li>
          </ul>
        </section>
        <OwnOfSheet v-if="id" :product="id" :sheet="draft" />
        <p v-if="judged && !faults.length && !judged.doubts.length && !judged.gaps.length">
          Complete, and nothing in it is unusual.
        </p>
      </aside>
    </div>
    <p v-else-if="!trouble" class="quiet">Opening …</p>
  </div>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr);
  gap: 28px;
}
form {
  display: grid;
  gap: 10px;
  align-content: start;
}
.part > * + * {
  margin-top: 10px;
}
form h2 {
  margin: 12px 0 0;
  border-bottom: 1px solid var(--line);
}
aside {
  position: sticky;
  top: 12px;
  align-self: start;
  max-height: 92vh;
  overflow-y: auto;
}
aside ul {
  padding-left: 18px;
}
aside h2 {
  font-size: 1.05rem;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: 1fr;
  }
  aside {
    position: static;
  }
}
</style>
