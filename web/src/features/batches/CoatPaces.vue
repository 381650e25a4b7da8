<script setup lang="ts">
import { computed } from 'vue'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import QuantityField from '../../fields/QuantityField.vue'

/** How fast each coat is spread, where that is not the crew's own pace. */
const session = useSession()
const desk = useDesk()
const coats = computed(() => desk.surface.value.coats)

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
    </div>
  </div>
</template>
