<script setup lang="ts">
import { computed } from 'vue'
import { useDesk } from '../job/useEditor'
import OwnOffer from '../record/OwnOffer.vue'
import { useCoatFloors } from '../record/useCoatFloors'
import { useSession } from '../../session/session'
import QuantityField from '../../fields/QuantityField.vue'

/** How fast each coat is spread, where that is not the crew's own pace. */
const session = useSession()
const desk = useDesk()
const coats = computed(() => desk.surface.value.coats)

const floors = useCoatFloors()
/** The pace that own floors show for each coat, where it is not used yet. */
const shown = computed(() =>
  coats.value.map((c) => {
    const own = floors(c, 'pace')
    return own?.floors.pace && own.floors.pace !== c.pace?.value
      ? { pace: own.floors.pace, estimate: own.estimate }
      : undefined
  }),
)
function setPace(id: string, value: number | undefined): void {
  desk.editSurface(`${id} pace`, (s) => {
    const found = s.coats.find((c) => c.id === id)
    if (found) found.pace = value === undefined ? undefined : { value, source: 'own-test' }
  })
}
</script>

<template>
  <div class="pair">
    <div v-for="(c, i) in coats" :key="c.id">
      <QuantityField
        kind="pace"
        :label="`Pace of coat ${i + 1}`"
        :told="c.pace ? '' : c.amount.basis === 'by-stone' ? 'trowelled, common practice' : 'crew default'"
        :model-value="c.pace?.value ?? desk.surfacePlan.value?.coats[i]?.pace"
        :disabled="!session.mayEdit"
        positive
        @update:model-value="setPace(c.id, $event)"
      />
      <v-btn
        v-if="c.pace && session.mayEdit"
        size="small"
        variant="text"
        :aria-label="`Crew default for coat ${i + 1}`"
        @click="setPace(c.id, undefined)"
        >Crew default</v-btn
      >
      <OwnOffer
        v-if="shown[i] && session.mayEdit"
        :label="`Pace of own floors for coat ${i + 1}`"
        :told="session.format('pace', shown[i].pace)"
        :estimate="shown[i].estimate"
        @take="setPace(c.id, shown[i]?.pace)"
      />
    </div>
  </div>
</template>
