<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import { computed } from 'vue'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import QuantityField from '../../fields/QuantityField.vue'

const desk = useDesk()
const session = useSession()
const given = computed(() => desk.surface.value.given)

function setArea(area: number): void {
  desk.editSurface('given area', (s) => (s.given = { area, note: s.given?.note ?? '' }))
}
function setNote(event: Event): void {
  const note = (event.target as HTMLInputElement).value
  desk.editSurface('given note', (s) => {
    if (s.given) s.given.note = note
  })
}
</script>

<template>
  <div class="given" data-test="given">
    <p class="quiet small">
      Not measured yet? Enter the area you were given; the plan marks it as not measured.
    </p>
    <QuantityField
      kind="area"
      label="Area as given"
      :model-value="given?.area"
      :disabled="!session.mayEdit"
      positive
      @update:model-value="setArea"
    />
    <template v-if="given">
      <TextField
        label="Given by"
        maxlength="400"
        :model-value="given.note"
        :readonly="!session.mayEdit"
        @change="setNote"
      />
      <div v-if="session.mayEdit">
        <v-btn size="small" @click="desk.editSurface('given', (s) => (s.given = undefined))">Remove it</v-btn>
      </div>
    </template>
  </div>
</template>

<style scoped>
.given {
  display: grid;
  gap: 10px;
}
</style>
