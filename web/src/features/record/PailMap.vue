<script setup lang="ts">
import { computed, ref } from 'vue'
import {
  api,
  type RecordCoat,
  type RecordCoatDay,
  type RecordSurface,
  type RecordTrouble,
} from '../../api/client'
import { dataOf } from '../../api/useRequest'
import DayFloor from '../../drawing/DayFloor.vue'
import type { Fill, ShownSection } from '../../drawing/SectionFloor.vue'
import PickField from '../../fields/PickField.vue'
import { minuteTime } from '../../fields/clock'
import { useSession } from '../../session/session'

/** Defects of a surface over the pails of a coat: what lay there, from which lots, when, and by whom. */
const props = defineProps<{
  surface: RecordSurface
  coat: RecordCoatDay
  plan: RecordCoat
  faults: RecordTrouble[]
  zone?: string
}>()
const session = useSession()
const layers = {
  pails: 'Pails',
  lots: 'Lots',
  hours: 'Hour of mixing',
  people: 'People',
  life: 'Pot life used',
} as const
type Layer = keyof typeof layers
const layer = ref<Layer>('pails')
const chosen = ref<number>()
type Batch = RecordCoatDay['batches'][number]
/** Share of its pot life that a pail had used when it was poured. */
const used = (b: Batch): number | undefined =>
  b.life && b.meets && b.began
    ? (new Date(b.began).getTime() - new Date(b.meets).getTime()) / 1000 / b.life
    : undefined
const words: Record<Layer, (b: Batch) => string> = {
  pails: (b) => (b.attempt > 1 ? `pail ${b.attempt}` : ''),
  lots: (b) => b.lots?.filter(Boolean).join(' + ') ?? '',
  hours: (b) => (b.meets ? minuteTime(b.meets, props.zone) : ''),
  people: (b) => (b.people ?? []).join(', '),
  life: (b) => (used(b) === undefined ? '' : session.format('fraction', used(b) ?? 0)),
}
const PATTERNS: Fill[] = ['solid', 'mixing', 'workable', 'setting', 'none']
const FAINT = 0.15
/** Each section by its layer: equal lots and people alike, hours and shares from faint to strong. */
const shows = computed(() => {
  const all = new Map<number, Pick<ShownSection, 'fill' | 'words' | 'strength'>>()
  const laid = props.coat.batches.filter((b) => b.meets)
  const numbers = laid.map((b) =>
    layer.value === 'life' ? (used(b) ?? 0) : new Date(b.meets ?? 0).getTime(),
  )
  const low = layer.value === 'life' ? 0 : Math.min(...numbers)
  const high = layer.value === 'life' ? 1 : Math.max(...numbers)
  const groups = [...new Set(laid.map(words[layer.value]))]
  laid.forEach((b, n) => {
    const text = words[layer.value](b)
    const graded = layer.value === 'hours' || layer.value === 'life'
    const share = high > low ? ((numbers[n] ?? 0) - low) / (high - low) : 1
    all.set(b.number, {
      words: text,
      fill:
        layer.value === 'pails' || graded
          ? 'solid'
          : text === ''
            ? 'none'
            : (PATTERNS[Math.min(groups.indexOf(text), PATTERNS.length - 1)] ?? 'none'),
      strength: graded ? FAINT + (1 - FAINT) * Math.min(1, Math.max(0, share)) : 1,
    })
  })
  for (const b of props.coat.batches) if (!all.has(b.number)) all.set(b.number, { words: '', fill: 'none' })
  return all
})
/** Defects that were seen in any coat of the surface. */
const above = computed(() => props.faults.filter((f) => f.over?.some((l) => l.coat === props.coat.id)))
const marks = computed(() => above.value.map((f) => ({ at: f.place as [number, number], name: '' })))
const titles = ref(new Map<string, string>())
async function load(): Promise<void> {
  const list = await dataOf(api.GET('/api/faults'))
  titles.value = new Map((list ?? []).map((s) => [s.key, s.title]))
}
if (above.value.length > 0) void load()
const titleOf = (f: RecordTrouble): string => titles.value.get(f.seen) ?? f.seen
const one = computed(() => props.coat.batches.find((b) => b.number === chosen.value))
const told = computed(() =>
  above.value.filter((f) => f.over?.some((l) => l.coat === props.coat.id && l.batch === chosen.value)),
)
const lines = computed(() => {
  const b = one.value
  if (!b) return []
  const life = used(b)
  return [
    ['Mixing started', b.meets ? minuteTime(b.meets, props.zone) : 'not logged'],
    ['Poured', b.began ? minuteTime(b.began, props.zone) : 'not logged'],
    ['Pot life used when poured', life === undefined ? 'not known' : session.format('fraction', life)],
    ['Lots', words.lots(b) || 'not logged'],
    ['People', words.people(b) || 'not logged'],
    ['Wet film', b.films.map((f) => session.format('film', f.film)).join(', ') || 'not logged'],
    ['Pail ended', b.spot ? 'marked on the plan (ring)' : 'not marked'],
  ]
})
</script>

<template>
  <div class="map" data-test="pail-map">
    <div>
      <PickField v-model="layer" open label="Show on the plan" :options="layers" class="pick" />
      <DayFloor
        :surface="surface"
        :plan="plan"
        :coat="coat"
        :chosen="chosen"
        :marks="marks"
        :shows="shows"
        @choose="chosen = $event"
      />
    </div>
    <div class="told" data-test="pail-told">
      <template v-if="one">
        <h3>Section {{ one.number }}</h3>
        <dl>
          <template v-for="[name, text] in lines" :key="name">
            <dt>{{ name }}</dt>
            <dd>{{ text }}</dd>
          </template>
        </dl>
        <p v-for="f in told" :key="f.event">
          <b>Defect: {{ titleOf(f) }}</b
          ><template v-if="f.size">, {{ f.size }}</template
          ><template v-if="f.text">. {{ f.text }}</template>
          <a v-if="f.photo" :href="`/api/photos/${f.photo}/image`" target="_blank"
            ><img :src="`/api/photos/${f.photo}/thumb`" :alt="`Photograph: ${titleOf(f)}`"
          /></a>
        </p>
      </template>
      <p v-else class="quiet">Choose a section to see its pail. Rings: pails ended. Diamonds: defects.</p>
    </div>
  </div>
</template>

<style scoped>
.map {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 260px;
  gap: 16px;
  margin: 12px 0;
}
.pick {
  width: 200px;
  margin-bottom: 8px;
}
dl {
  display: grid;
  grid-template-columns: 45% 1fr;
  gap: 4px 12px;
}
dt {
  color: var(--quiet);
}
img {
  display: block;
  max-width: 240px;
  max-height: 160px;
  margin-top: 6px;
}
@media (max-width: 900px) {
  .map {
    grid-template-columns: 1fr;
  }
}
@media print {
  .pick {
    display: none;
  }
}
</style>
