<script setup lang="ts">
import { computed } from 'vue'
import type { Coat, CoatPlan, Medium, Portion } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../people/session'
import PickField from '../../fields/PickField.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** What goes into and onto a coat beside its parts, and when it follows the one below. */
const props = defineProps<{
  coat: Coat
  plan?: CoatPlan
  below?: CoatPlan
  number: number
  media: Medium[]
}>()
const emit = defineEmits<{ change: [label: string, by: (coat: Coat) => void, medium?: Medium] }>()
const desk = useDesk()
const session = useSession()
const USUAL_DOSE = 60
const USUAL_PIGMENT = 0.03

const sheet = computed(() => desk.file.value.products.find((p) => p.id === props.coat.product))
const hardeners = computed(() =>
  Object.fromEntries((sheet.value?.hardeners ?? []).map((h) => [h.id, h.name])),
)
function named(...kinds: Medium['kind'][]): Record<string, string> {
  return Object.fromEntries(props.media.filter((m) => kinds.includes(m.kind)).map((m) => [m.id, m.name]))
}
const scattered = computed(() => named('flake', 'quartz', 'grit', 'bead', 'pebble'))
const gritty = computed(() => named('grit', 'bead'))
const pigments = computed(() => named('pigment'))
const degrees = { light: 'lightly', even: 'evenly', full: 'to rejection' }
const bases = { a: 'of A', 'a+b': 'of A + B', mix: 'of the finished mix' }

const told = computed(() => {
  const c = props.coat
  const name = (id: string | undefined): string => props.media.find((m) => m.id === id)?.name ?? 'pigment'
  return [
    c.hardener ? hardeners.value[c.hardener] : '',
    c.thinner ? `thinned by ${session.format('fraction', c.thinner.value)} ${bases[c.thinner.of]}` : '',
    c.pigment ? `${session.format('fraction', c.pigment.portion.value)} ${name(c.pigment.medium)}` : '',
    c.grit ? `${name(c.grit.medium)}, ${session.format('content', c.grit.dose.value)}` : '',
    c.scatter ? `${name(c.scatter.medium)} ${degrees[c.scatter.degree]}` : '',
    c.wait !== undefined ? `${session.format('span', c.wait)} after the coat below` : '',
    c.abraded ? 'abraded before' : '',
  ].filter(Boolean)
})
const window = computed(() => {
  const w = props.below?.window
  if (!w) return ''
  const from = w.from ? `from ${session.format('span', w.from)}` : ''
  const until = w.until ? `until ${session.format('span', w.until)}` : ''
  return `its window: ${[from, until].filter(Boolean).join(' ')} at ${session.format('temperature', w.at)}${w.outside ? ', outside its sheet' : ''}`
})

function medium(id: string): Medium | undefined {
  return props.media.find((m) => m.id === id)
}
function scatter(id: string): void {
  const degree = props.coat.scatter?.degree ?? 'full'
  emit('change', 'scatter', (c) => (c.scatter = id ? { medium: id, degree } : undefined), medium(id))
}
function grit(id: string): void {
  const dose = props.coat.grit?.dose ?? { value: USUAL_DOSE, source: 'rule-of-thumb' as const }
  emit('change', 'grit', (c) => (c.grit = id ? { medium: id, dose } : undefined), medium(id))
}
function pigment(id: string): void {
  const portion: Portion = props.coat.pigment?.portion ?? {
    value: USUAL_PIGMENT,
    of: 'a+b',
    source: 'rule-of-thumb',
  }
  const dark = props.coat.pigment?.dark
  emit('change', 'pigment', (c) => (c.pigment = id ? { medium: id, dark, portion } : undefined), medium(id))
}
function thin(value: number, of: Portion['of']): void {
  emit('change', 'thinner', (c) => (c.thinner = value > 0 ? { value, of, source: 'own-test' } : undefined))
}
</script>

<template>
  <details class="extras" :data-test="`extras-${number}`">
    <summary class="small">
      Additions and timing<span v-if="told.length" class="told">: {{ told.join(' · ') }}</span>
    </summary>
    <div class="grid">
      <PickField
        v-if="Object.keys(hardeners).length > 0"
        :label="`Hardener of coat ${number}`"
        :model-value="coat.hardener ?? ''"
        :options="hardeners"
        none="the one of the sheet"
        @update:model-value="(v) => emit('change', 'hardener', (c) => (c.hardener = v || undefined))"
      />
      <QuantityField
        v-if="number > 1"
        kind="span"
        :label="`Wait before coat ${number}`"
        :model-value="coat.wait"
        :told="window || 'the coat below gives no window'"
        :disabled="!session.mayEdit"
        @update:model-value="(v) => emit('change', 'wait', (c) => (c.wait = v))"
      />
      <label v-if="number > 1" class="small tick">
        <input
          type="checkbox"
          :checked="coat.abraded ?? false"
          :disabled="!session.mayEdit"
          :aria-label="`Abraded before coat ${number}`"
          @change="emit('change', 'abraded', (c) => (c.abraded = !c.abraded || undefined))"
        />
        What is below is abraded and cleaned before it
      </label>
      <QuantityField
        kind="fraction"
        :label="`Thinner in coat ${number}`"
        :model-value="coat.thinner?.value ?? 0"
        :told="
          sheet?.thinnerMax
            ? sheet.thinnerMax.value > 0
              ? `sheet: at most ${session.format('fraction', sheet.thinnerMax.value)} ${bases[sheet.thinnerMax.of]}`
              : 'sheet: never'
            : 'its sheet says nothing'
        "
        :disabled="!session.mayEdit"
        @update:model-value="(v) => thin(v, coat.thinner?.of ?? 'a+b')"
      />
      <PickField
        v-if="coat.thinner"
        :label="`Thinner of coat ${number} is a share`"
        :model-value="coat.thinner.of"
        :options="bases"
        @update:model-value="(v) => thin(coat.thinner?.value ?? 0, v as Portion['of'])"
      />
      <PickField
        :label="`Pigment of coat ${number}`"
        :model-value="coat.pigment?.medium ?? ''"
        :options="pigments"
        none="none"
        @update:model-value="pigment"
      />
      <QuantityField
        v-if="coat.pigment"
        kind="fraction"
        :label="`Pigment in coat ${number}`"
        :told="bases[coat.pigment.portion.of]"
        :model-value="coat.pigment.portion.value"
        :disabled="!session.mayEdit"
        @update:model-value="
          (v) =>
            emit(
              'change',
              'pigment share',
              (c) =>
                c.pigment && (c.pigment.portion = { ...c.pigment.portion, value: v, source: 'own-test' }),
            )
        "
      />
      <label v-if="coat.pigment" class="small tick">
        <input
          type="checkbox"
          :checked="coat.pigment.dark ?? false"
          :disabled="!session.mayEdit"
          @change="
            emit('change', 'dark', (c) => c.pigment && (c.pigment.dark = !c.pigment.dark || undefined))
          "
        />
        Dark enough to hide fillings
      </label>
      <PickField
        :label="`Stirred into coat ${number}`"
        :model-value="coat.grit?.medium ?? ''"
        :options="gritty"
        none="no grit"
        @update:model-value="grit"
      />
      <QuantityField
        v-if="coat.grit"
        kind="content"
        :label="`Grit in coat ${number}`"
        :model-value="coat.grit.dose.value"
        :disabled="!session.mayEdit"
        positive
        @update:model-value="
          (v) => emit('change', 'dose', (c) => c.grit && (c.grit.dose = { value: v, source: 'own-test' }))
        "
      />
      <PickField
        :label="`Broadcast into coat ${number}`"
        :model-value="coat.scatter?.medium ?? ''"
        :options="scattered"
        none="nothing"
        @update:model-value="scatter"
      />
      <PickField
        v-if="coat.scatter"
        :label="`Broadcast rate of coat ${number}`"
        :model-value="coat.scatter.degree"
        :options="degrees"
        @update:model-value="
          (v) =>
            emit('change', 'degree', (c) => c.scatter && (c.scatter.degree = v as 'light' | 'even' | 'full'))
        "
      />
    </div>
    <ul v-if="plan?.build?.additions?.length" class="small goes">
      <li v-for="a in plan.build.additions" :key="a.name + a.how">
        {{ a.name }} {{ a.how }}:
        <b>{{ a.mass ? session.format('mass', a.mass) : session.format('volume', a.volume ?? 0) }}</b>
      </li>
    </ul>
  </details>
</template>

<style scoped>
.extras {
  margin-top: 6px;
}
.told {
  font-weight: 480;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 12px;
  margin-top: 8px;
  align-items: start;
}
.tick {
  display: flex;
  gap: 6px;
  align-items: center;
  padding-top: 14px;
}
.goes {
  list-style: none;
  padding: 0;
}
@media (max-width: 700px) {
  .grid {
    grid-template-columns: 1fr;
  }
}
</style>
