<script setup lang="ts">
import { computed } from 'vue'
import type { Job } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../people/session'
import PailFilling from './PailFilling.vue'
import PickField from '../../fields/PickField.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** How warm the parts come to the mixing place, and where the pail stands. */
type Mixing = NonNullable<Job['mixing']>
const desk = useDesk()
const session = useSession()
const ASSUMED_SLAB = 20
const mixing = computed<Mixing>(() => desk.file.value.job.mixing ?? {})
const slab = computed(() => desk.file.value.job.slab?.value ?? ASSUMED_SLAB)
const standings = { shade: 'in the shade', ice: 'in ice water', warm: 'in warm water' }

function set(label: string, by: Partial<Mixing>): void {
  desk.editor.edit(`mixing ${label}`, (f) => {
    const next = { ...f.job.mixing, ...by }
    f.job.mixing = Object.values(next).some((v) => v !== undefined) ? next : undefined
  })
}
</script>

<template>
  <div class="place" data-test="mixing">
    <QuantityField
      kind="temperature"
      label="Part A temperature"
      :told="mixing.a ? '' : 'as the slab'"
      :model-value="mixing.a?.value ?? slab"
      :disabled="!session.mayEdit"
      @update:model-value="set('A', { a: { value: $event, source: 'own-test' } })"
    />
    <QuantityField
      kind="temperature"
      label="Part B temperature"
      :told="mixing.b ? '' : 'as A'"
      :model-value="mixing.b?.value ?? mixing.a?.value ?? slab"
      :disabled="!session.mayEdit"
      @update:model-value="set('B', { b: { value: $event, source: 'own-test' } })"
    />
    <QuantityField
      kind="temperature"
      label="Air at the mixing place"
      :told="mixing.air ? '' : 'as the slab'"
      :model-value="mixing.air?.value ?? slab"
      :disabled="!session.mayEdit"
      @update:model-value="set('air', { air: { value: $event, source: 'own-test' } })"
    />
    <QuantityField
      kind="span"
      label="Carry time"
      :model-value="mixing.carry ?? 0"
      :disabled="!session.mayEdit"
      @update:model-value="set('carry', { carry: $event || undefined })"
    />
    <PickField
      label="Bucket kept"
      :model-value="mixing.standing ?? ''"
      :options="standings"
      none="in the air"
      @update:model-value="set('standing', { standing: ($event || undefined) as Mixing['standing'] })"
    />
  </div>
  <PailFilling />
</template>

<style scoped>
.place {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  gap: 12px;
  align-items: start;
}
@media (max-width: 900px) {
  .place {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
