<script setup lang="ts">
import TickField from '../../fields/TickField.vue'
import TextField from '../../fields/TextField.vue'
import { computed } from 'vue'
import type { Survey } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import PickField from '../../fields/PickField.vue'

/** Inspection of a surface without an instrument. */
const desk = useDesk()
const session = useSession()
const survey = computed<Survey>(() => desk.surface.value.survey ?? {})
type Choice = 'substrate' | 'waterDrop' | 'soundness' | 'behind'
const choices: Record<Choice, { label: string; options: Record<string, string> }> = {
  substrate: {
    label: 'Substrate',
    options: {
      concrete: 'Concrete',
      'trowelled-hard': 'Concrete, trowelled hard',
      screed: 'Screed',
      plaster: 'Plaster',
      timber: 'Timber',
      board: 'Board',
      stone: 'Stone',
      metal: 'Metal',
      tile: 'Tile',
      laminate: 'Laminate',
      'old-coating': 'An old coating',
    },
  },
  waterDrop: { label: 'Water-drop test', options: { soaks: 'soaks in', beads: 'stands in beads' } },
  soundness: {
    label: 'Scratch test',
    options: { sound: 'it is sound', scratches: 'it can be scratched', crumbles: 'it crumbles' },
  },
  behind: {
    label: 'Negative-side moisture',
    options: { dry: 'dry', damp: 'damp', weeping: 'water comes through' },
  },
}
const stains = {
  oil: 'oil',
  dust: 'dust',
  sealer: 'sealer',
  'curing-compound': 'curing compound',
  laitance: 'laitance',
  salts: 'salts',
  'loose-paint': 'loose paint',
  wax: 'wax',
}
type Stain = keyof typeof stains
const flags = {
  outdoors: 'outdoors',
  heated: 'heated',
  immersed: 'under water',
  shut: 'room shut against dust',
  keepSealed: 'sealed, stays sealed on purpose',
  washer: 'rinsed by pressure washer',
} as const
const MOST = 10
const profiles = Object.fromEntries(Array.from({ length: MOST }, (_, i) => [i + 1, `CSP ${i + 1}`]))

function set(label: string, change: (survey: Survey) => void): void {
  desk.editSurface(`survey ${label}`, (s) => s.survey && change(s.survey))
}
function stain(which: Stain): void {
  set('contamination', (s) => {
    const now = s.contamination ?? []
    const next = now.includes(which) ? now.filter((c) => c !== which) : [...now, which]
    s.contamination = next.length > 0 ? next : undefined
  })
}
</script>

<template>
  <div class="seen">
    <h3>Inspection</h3>
    <div class="triple">
      <PickField
        v-for="(c, field) in choices"
        :key="field"
        :label="c.label"
        :options="c.options"
        none="not checked"
        :model-value="survey[field] ?? ''"
        @update:model-value="set(field, (s) => Object.assign(s, { [field]: $event || undefined }))"
      />
      <TextField
        label="Date placed"
        type="date"
        :model-value="survey.laid"
        :disabled="!session.mayEdit"
        @change="
          (e: Event) => set('laid', (s) => (s.laid = (e.target as HTMLInputElement).value || undefined))
        "
      />
      <PickField
        label="Profile found"
        :options="profiles"
        none="not checked"
        :model-value="String(survey.profile ?? '')"
        @update:model-value="(n) => set('profile', (s) => (s.profile = Number(n) || undefined))"
      />
      <PickField
        label="Profile required"
        :options="profiles"
        none="as coats require"
        :model-value="String(survey.wanted ?? '')"
        @update:model-value="(n) => set('wanted', (s) => (s.wanted = Number(n) || undefined))"
      />
      <TextField
        label="Use of the surface"
        maxlength="300"
        :model-value="survey.use ?? ''"
        :readonly="!session.mayEdit"
        @change="
          (e: Event) => set('use', (s) => (s.use = (e.target as HTMLInputElement).value.trim() || undefined))
        "
      />
    </div>
    <div class="small checks">
      Place and way of working
      <TickField
        v-for="(words, flag) in flags"
        :key="flag"
        :label="words"
        :model-value="survey[flag]"
        :disabled="!session.mayEdit"
        @update:model-value="set(flag, (s) => (s[flag] = s[flag] ? undefined : true))"
      />
    </div>
    <div class="small checks">
      Contaminants
      <TickField
        v-for="(words, which) in stains"
        :key="which"
        :label="words"
        :model-value="survey.contamination?.includes(which)"
        :disabled="!session.mayEdit"
        @update:model-value="stain(which)"
      />
    </div>
  </div>
</template>

<style scoped>
.checks {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin-top: 10px;
}
</style>
