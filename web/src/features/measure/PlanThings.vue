<script setup lang="ts">
import { computed } from 'vue'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import FoldPanel from '../../fields/FoldPanel.vue'
import NameField from '../../fields/NameField.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** What stands on a floor's plan: columns, zones, doors and drains. */
const desk = useDesk()
const session = useSession()
const floor = computed(() => desk.surface.value.floor)
const takeoff = computed(() => desk.surfacePlan.value?.takeoff)
const rings = computed(() => [
  ...floor.value.holes.map((h, i) => ({
    ...h,
    what: 'Column or pit',
    area: takeoff.value?.pieces[i + 1]?.area,
  })),
  ...(floor.value.zones ?? []).map((z, i) => ({ ...z, what: 'Zone', area: takeoff.value?.zones?.[i]?.area })),
])
const fittings = computed(() => floor.value.fittings ?? [])

function rename(id: string, name: string): void {
  desk.editSurface(`${id} name`, (s) => {
    const all = [...s.floor.holes, ...(s.floor.zones ?? []), ...(s.floor.fittings ?? [])]
    const thing = all.find((t) => t.id === id)
    if (thing) thing.name = name
  })
}
function resize(id: string, width: number): void {
  desk.editSurface(`${id} width`, (s) => {
    const thing = s.floor.fittings?.find((t) => t.id === id)
    if (thing) thing.width = width
  })
}
function remove(id: string): void {
  desk.editSurface('remove from the plan', (s) => {
    s.floor.holes = s.floor.holes.filter((t) => t.id !== id)
    s.floor.zones = s.floor.zones?.filter((t) => t.id !== id)
    s.floor.fittings = s.floor.fittings?.filter((t) => t.id !== id)
  })
}
</script>

<template>
  <FoldPanel v-if="rings.length + fittings.length > 0" open data-test="plan-things" title="On the plan">
    <ul>
      <li v-for="r in rings" :key="r.id">
        <NameField :label="r.what" :model-value="r.name" @update:model-value="rename(r.id, $event)" />
        <span class="figure">{{ r.area === undefined ? '' : session.format('area', r.area) }}</span>
        <v-btn
          v-if="session.mayEdit"
          size="small"
          variant="text"
          :aria-label="`Remove ${r.name}`"
          @click="remove(r.id)"
          >Remove</v-btn
        >
      </li>
      <li v-for="f in fittings" :key="f.id">
        <NameField
          :label="f.kind === 'door' ? 'Door' : 'Drain'"
          :model-value="f.name"
          @update:model-value="rename(f.id, $event)"
        />
        <QuantityField
          kind="length"
          :label="f.kind === 'door' ? 'Opening' : 'Diameter'"
          :model-value="f.width ?? 0"
          :disabled="!session.mayEdit"
          @update:model-value="resize(f.id, $event)"
        />
        <v-btn
          v-if="session.mayEdit"
          size="small"
          variant="text"
          :aria-label="`Remove ${f.name}`"
          @click="remove(f.id)"
          >Remove</v-btn
        >
      </li>
    </ul>
  </FoldPanel>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 8px;
  margin-top: 10px;
}
li {
  display: grid;
  grid-template-columns: 1fr 7.5rem auto;
  gap: 10px;
  align-items: center;
}
</style>
