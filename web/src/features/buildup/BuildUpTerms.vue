<script setup lang="ts">
import { computed } from 'vue'
import { useDesk } from '../job/useEditor'
import { sourceWords } from '../../fields/sources'
import { useSession } from '../people/session'
import PickField from '../../fields/PickField.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** What the coats must bear, and the temperature they are planned for. */
const desk = useDesk()
const session = useSession()
const ASSUMED_SLAB = 20
const job = computed(() => desk.file.value.job)
const service = computed(() => desk.surface.value.service ?? {})
const slips = {
  R9: 'R9, dry rooms',
  R10: 'R10, entrances and kitchens',
  R11: 'R11, wet work',
  R12: 'R12, wash-down',
  R13: 'R13, grease and slopes',
}
const contacts = { food: 'food', potable: 'drinking water' }
type Service = NonNullable<(typeof desk.surface.value)['service']>

function set(change: Partial<Service>): void {
  desk.editSurface('service', (s) => {
    const next = Object.fromEntries(Object.entries({ ...s.service, ...change }).filter(([, v]) => v))
    s.service = Object.keys(next).length > 0 ? (next as Service) : undefined
  })
}
</script>

<template>
  <div class="terms" data-test="terms">
    <QuantityField
      kind="temperature"
      label="Slab planned for"
      :model-value="job.slab?.value ?? ASSUMED_SLAB"
      :told="job.slab ? sourceWords[job.slab.source] : 'assumed'"
      :disabled="!session.mayEdit"
      @update:model-value="
        desk.editor.edit('slab', (f) => (f.job.slab = { value: $event, source: 'own-test' }))
      "
    />
    <QuantityField
      kind="content"
      label="VOC limit"
      :model-value="job.vocMax?.value"
      :told="job.vocMax ? '0 is no limit' : 'none'"
      :disabled="!session.mayEdit"
      @update:model-value="
        desk.editor.edit(
          'VOC limit',
          (f) => (f.job.vocMax = $event > 0 ? { value: $event, source: 'standard' } : undefined),
        )
      "
    />
    <PickField
      label="Slip class wanted"
      :model-value="service.slip ?? ''"
      :options="slips"
      none="none"
      @update:model-value="set({ slip: $event as Service['slip'] })"
    />
    <PickField
      label="Food or water contact"
      :model-value="service.contact ?? ''"
      :options="contacts"
      none="nothing to be certified for"
      @update:model-value="set({ contact: $event as Service['contact'] })"
    />
    <label class="small sun">
      <input
        type="checkbox"
        :checked="service.sun ?? false"
        :disabled="!session.mayEdit"
        @change="set({ sun: ($event.target as HTMLInputElement).checked })"
      />
      Daylight falls on it
    </label>
  </div>
</template>

<style scoped>
.terms {
  display: grid;
  grid-template-columns: 1fr 1fr 1.3fr 1.3fr auto;
  gap: 12px;
  align-items: start;
  margin-bottom: 12px;
}
.sun {
  display: flex;
  gap: 6px;
  align-items: center;
  padding-top: 18px;
  white-space: nowrap;
}
@media (max-width: 900px) {
  .terms {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
