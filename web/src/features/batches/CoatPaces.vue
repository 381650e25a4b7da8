<script setup lang="ts">
import { computed } from 'vue'
import type { RecordLearnt } from '../../api/client'
import { kindOf } from '../job/blank'
import { useDesk } from '../job/useEditor'
import { useOwnFloors } from '../record/useOwnFloors'
import { useSession } from '../../session/session'
import QuantityField from '../../fields/QuantityField.vue'

/** How fast each coat is spread, where that is not the crew's own pace. */
const session = useSession()
const desk = useDesk()
const coats = computed(() => desk.surface.value.coats)

const floors = useOwnFloors()
/** The pace that own floors show for a coat: of this crew's product, laid in this way, from three jobs on. */
function shown(i: number): RecordLearnt | undefined {
  const coat = coats.value[i]
  const method = coat?.own?.laying ?? desk.file.value.job.methods?.laying
  return floors.value.find(
    (l) =>
      l.product === coat?.product &&
      l.surface === kindOf(desk.surface.value) &&
      l.pace &&
      l.estimates.some((e) => e.what === 'pace' && e.offered) &&
      (!method || l.method === method),
  )
}
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
      <v-btn
        v-if="shown(i)?.pace && shown(i)?.pace !== c.pace?.value && session.mayEdit"
        size="small"
        variant="text"
        data-test="own-pace"
        :aria-label="`Pace of own floors for coat ${i + 1}`"
        @click="setPace(c.id, shown(i)?.pace)"
        >Own floors: {{ session.format('pace', shown(i)?.pace ?? 0) }}, from {{ shown(i)?.jobs }} jobs</v-btn
      >
    </div>
  </div>
</template>
