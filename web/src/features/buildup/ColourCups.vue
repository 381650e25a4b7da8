<script setup lang="ts">
import { computed } from 'vue'
import type { Coat, Colouring, Medium } from '../../api/client'
import { useSession } from '../../session/session'
import PickField from '../../fields/PickField.vue'
import TextField from '../../fields/TextField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import QuantityField from '../../fields/QuantityField.vue'

/** A coat divided into cups of colour: base and accents by share, or so much for the base and the rest in equal cups. */
const props = defineProps<{ coat: Coat; number: number; media: Medium[]; need: number }>()
const emit = defineEmits<{ change: [label: string, by: (coat: Coat) => void, medium?: Medium] }>()
const session = useSession()
type Colour = Colouring['colours'][number]
const ways = { shares: 'each by its share', base: 'so much for the base, the rest in equal cups' }
const CLEAR = '#d9dad6'
const USUAL_PIGMENT = 0.02
const MOST = 12
const colours = computed(() => props.coat.colours?.colours ?? [])
const byBase = computed(() => props.coat.colours?.way === 'base')
const pigments = computed(() =>
  Object.fromEntries(props.media.filter((m) => m.kind === 'pigment').map((m) => [m.id, m.name])),
)
const told = computed(() => (colours.value.length > 0 ? colours.value.map((c) => c.name).join(', ') : 'one'))
const whole = computed(() => colours.value.reduce((sum, c) => sum + (c.share ?? 0), 0))

function set(label: string, by: (c: Colouring) => void, medium?: Medium): void {
  emit(
    'change',
    `colours ${label}`,
    (coat) => {
      if (coat.colours) by(coat.colours)
    },
    medium,
  )
}
/** The shares of all but one are made to leave room for it. */
function share(at: number, value: number): void {
  set(`share ${at}`, (c) => {
    const rest = c.colours.reduce((sum, k, i) => (i === at ? sum : sum + (k.share ?? 0)), 0)
    c.colours = c.colours.map((k, i) => ({
      ...k,
      share:
        i === at
          ? value
          : rest > 0
            ? ((k.share ?? 0) / rest) * (1 - value)
            : (1 - value) / (c.colours.length - 1),
    }))
  })
}
function even(list: Colour[]): Colour[] {
  return list.map((k) => ({ ...k, share: 1 / list.length }))
}
function add(): void {
  const next: Colour = { name: `Colour ${colours.value.length + 1}`, color: CLEAR }
  if (props.coat.colours) set('add', (c) => (c.colours = even([...c.colours, next])))
  else
    emit('change', 'colours add', (coat) => {
      coat.colours = { way: 'shares', colours: even([{ name: 'Base', color: CLEAR }, next]) }
    })
}
function remove(at: number): void {
  if (colours.value.length < 2) emit('change', 'colours off', (coat) => (coat.colours = undefined))
  else set('remove', (c) => (c.colours = even(c.colours.toSpliced(at, 1))))
}
function tint(at: number, id: string): void {
  const medium = props.media.find((m) => m.id === id)
  set(
    `pigment ${at}`,
    (c) => {
      const k = c.colours[at]
      if (!k) return
      const named = Object.values(pigments.value).includes(k.name) || /^(Base|Colour \d+)$/.test(k.name)
      c.colours[at] = {
        ...k,
        medium: id || undefined,
        color: medium?.color ?? CLEAR,
        name: medium && named ? medium.name : k.name,
        portion: id ? (k.portion ?? { value: USUAL_PIGMENT, of: 'a+b', source: 'rule-of-thumb' }) : undefined,
      }
    },
    medium,
  )
}
function edit(at: number, label: string, by: Partial<Colour>): void {
  set(`${label} ${at}`, (c) => (c.colours = c.colours.map((k, i) => (i === at ? { ...k, ...by } : k))))
}
function word(event: Event): string {
  return (event.target as HTMLInputElement).value.trim()
}
function way(value: string): void {
  set('way', (c) => {
    c.way = value as Colouring['way']
    if (c.way === 'base' && !c.base) c.base = props.need / 2
    if (c.way === 'shares') c.colours = even(c.colours)
  })
}
const fields = computed<(Field | false)[]>(() => {
  const c = props.coat.colours
  const amount = (label: string, key: 'left' | 'least', usual: number): Field => ({
    as: 'quantity',
    kind: 'volume',
    label,
    value: c?.[key] ?? usual,
    positive: true,
    take: (v) => set(key, (x) => (x[key] = v)),
  })
  return [
    { as: 'pick', label: 'Divided', value: c?.way ?? 'shares', options: ways, take: way },
    byBase.value && {
      as: 'quantity',
      kind: 'volume',
      label: 'For the base',
      told: `of ${session.format('volume', props.need)} in all`,
      value: c?.base,
      positive: true,
      take: (v) => set('base', (x) => (x.base = v)),
    },
    {
      as: 'quantity',
      kind: 'span',
      label: 'Colouring one cup takes',
      value: c?.each ?? 60,
      positive: true,
      take: (v) => set('each', (x) => (x.each = v)),
    },
    {
      as: 'pick',
      label: 'Alcohol mist as an accent',
      value: String(c?.mists ?? 0),
      options: { 0: 'none', 1: 'one mist', 2: 'two, 5 min apart' },
      take: (v) => set('mists', (x) => (x.mists = Number(v) || undefined)),
    },
    amount('Residue per cup', 'left', 5e-6),
    amount('Smallest cup worth colouring', 'least', 60e-6),
  ]
})
</script>

<template>
  <FoldPanel class="extras" :data-test="`colours-${number}`">
    <template #title>Colours: {{ told }}</template>
    <FieldGrid v-if="colours.length > 0" :fields="fields" :columns="3" />
    <table v-if="colours.length > 0" class="colours">
      <thead>
        <tr>
          <th></th>
          <th>Colour, the base first</th>
          <th>Pigment</th>
          <th>of A + B, by mass</th>
          <th v-if="!byBase">Share</th>
          <th>Where it goes</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(c, i) in colours" :key="i">
          <td>
            <svg class="chip" aria-hidden="true"><rect width="14" height="14" :fill="c.color" /></svg>
          </td>
          <td>
            <TextField
              maxlength="60"
              :aria-label="`Name of colour ${i + 1}`"
              :model-value="c.name"
              :disabled="!session.mayEdit"
              @change="edit(i, 'name', { name: word($event) || `Colour ${i + 1}` })"
            />
          </td>
          <td>
            <PickField
              bare
              :label="`Pigment of colour ${i + 1}`"
              :model-value="c.medium"
              none="clear"
              :options="pigments"
              @update:model-value="tint(i, $event)"
            />
          </td>
          <td class="narrow">
            <QuantityField
              v-if="c.portion"
              bare
              kind="fraction"
              :label="`Pigment in colour ${i + 1}`"
              :model-value="c.portion.value"
              :disabled="!session.mayEdit"
              @update:model-value="
                edit(i, 'portion', { portion: { value: $event, of: 'a+b', source: 'own-test' } })
              "
            />
          </td>
          <td v-if="!byBase" class="narrow">
            <QuantityField
              bare
              kind="fraction"
              :label="`Share of colour ${i + 1}`"
              :model-value="c.share ?? 0"
              :disabled="!session.mayEdit || colours.length === 1"
              @update:model-value="share(i, $event)"
            />
          </td>
          <td>
            <TextField
              maxlength="200"
              :aria-label="`Where colour ${i + 1} goes`"
              :model-value="c.where"
              :disabled="!session.mayEdit"
              @change="edit(i, 'where', { where: word($event) || undefined })"
            />
          </td>
          <td>
            <button
              v-if="session.mayEdit"
              type="button"
              class="plain"
              :aria-label="`Remove colour ${i + 1}`"
              @click="remove(i)"
            >
              ×
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="!byBase && colours.length > 0" class="small quiet">
      Together {{ session.format('fraction', whole) }}. Changing a share moves the others in proportion.
    </p>
    <v-btn
      v-if="session.mayEdit && colours.length < MOST"
      size="small"
      :data-test="`add-colour-${number}`"
      @click="add"
      >{{ colours.length === 0 ? 'Divide into colours' : 'Add a colour' }}</v-btn
    >
  </FoldPanel>
</template>

<style scoped>
.colours {
  width: 100%;
  border-collapse: collapse;
  margin-top: 8px;
}
.colours th {
  text-align: left;
  font-size: 0.82rem;
  font-weight: 560;
}
.colours td {
  padding: 4px 8px 4px 0;
  vertical-align: top;
}
.narrow {
  width: 92px;
}
</style>
