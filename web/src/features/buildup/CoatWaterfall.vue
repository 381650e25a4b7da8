<script setup lang="ts">
import { computed } from 'vue'
import type { Coat, CoatPlan } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { sourceWords } from '../../fields/sources'
import { useSession } from '../../session/session'
import FoldPanel from '../../fields/FoldPanel.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** From the film on the surface, step by step, to what is mixed and bought. */
const props = defineProps<{ coat: Coat; plan: CoatPlan; number: number }>()
const emit = defineEmits<{ change: [label: string, by: (coat: Coat) => void] }>()
const desk = useDesk()
const session = useSession()
const build = computed(() => props.plan.build)
const steps = computed(() => {
  const b = build.value
  if (!b) return []
  const whole = b.need + (b.thinner ?? 0)
  let sum = 0
  return b.shares.map((s) => {
    const from = Math.min(sum, sum + s.volume)
    sum += s.volume
    return { ...s, left: (100 * from) / whole, width: (100 * Math.abs(s.volume)) / whole }
  })
})
const bought = computed(() =>
  desk.plan.value.purchases.find(
    (p) => p.product === props.coat.product && (p.hardener ?? '') === (props.coat.hardener ?? ''),
  ),
)
/** What this coat takes of each square metre beside its film. */
const fill = computed(() => {
  const area = build.value ? build.value.onSurface / build.value.wet : 0
  const share = build.value?.shares.find((s) => s.name === 'Filling the profile')
  return share && area > 0 ? share.volume / area : 0
})
</script>

<template>
  <FoldPanel
    v-if="build"
    class="waterfall"
    :data-test="`waterfall-${number}`"
    title="From theoretical amount to order"
  >
    <ol>
      <li v-for="s in steps" :key="s.name">
        <span>{{ s.name }}</span>
        <svg viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
          <rect :x="s.left" y="1" :width="Math.max(s.width, 0.4)" height="8" :fill="plan.color" />
        </svg>
        <span class="figure">{{ session.format('volume', s.volume) }}</span>
        <span class="quiet small">{{ s.source ? sourceWords[s.source] : '' }}</span>
      </li>
      <li class="sum">
        <span>To mix</span>
        <svg viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
          <rect
            x="0"
            y="1"
            :width="(100 * build.need) / (build.need + (build.thinner ?? 0))"
            height="8"
            :fill="plan.color"
          />
        </svg>
        <span class="figure">{{ session.format('volume', build.need) }}</span>
        <span class="quiet small">{{
          bought ? `${session.format('fraction', bought.margin)} margin bought` : ''
        }}</span>
      </li>
    </ol>
    <p v-if="plan.reached" class="small">
      If all that is bought is used, the film becomes {{ session.format('film', plan.reached) }} wet.
    </p>
    <div class="triple">
      <QuantityField
        kind="film"
        :label="`Profile fill of coat ${number}`"
        :told="coat.fill ? 'yours' : 'by the profile found; 100 µm is 0.1 L/m²'"
        :model-value="coat.fill?.value ?? fill"
        :disabled="!session.mayEdit"
        @update:model-value="
          (v) => emit('change', 'fill', (c) => (c.fill = { value: v, source: 'own-test' }))
        "
      />
      <QuantityField
        kind="film"
        :label="`Absorption of coat ${number}`"
        :model-value="coat.soak?.value ?? 0"
        :disabled="!session.mayEdit"
        @update:model-value="
          (v) => emit('change', 'soak', (c) => (c.soak = { value: v, source: 'own-test' }))
        "
      />
      <QuantityField
        kind="volume"
        :label="`Residue of coat ${number}`"
        :model-value="coat.residue?.value ?? 0"
        :disabled="!session.mayEdit"
        @update:model-value="
          (v) => emit('change', 'residue', (c) => (c.residue = { value: v, source: 'own-test' }))
        "
      />
    </div>
  </FoldPanel>
</template>

<style scoped>
.waterfall {
  margin-top: 6px;
}
ol {
  list-style: none;
  padding: 0;
  margin-top: 6px;
}
li {
  display: grid;
  grid-template-columns: 11rem 1fr 6rem 8rem;
  gap: 10px;
  align-items: center;
  font-size: 0.9rem;
}
svg {
  width: 100%;
  height: 14px;
}
rect {
  stroke: var(--ink);
  stroke-width: 0.2;
}
.figure {
  text-align: right;
}
.sum {
  border-top: 1px solid var(--line);
  font-weight: 640;
}
@media (max-width: 700px) {
  li {
    grid-template-columns: 1fr auto;
  }
  svg {
    grid-column: 1 / -1;
    order: 3;
  }
}
</style>
