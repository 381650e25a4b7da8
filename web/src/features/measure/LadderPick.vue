<script setup lang="ts">
import { computed } from 'vue'
import type { Point } from '../../api/client'
import { useDesk } from '../job/useEditor'
import PickField from '../../fields/PickField.vue'

/** Where the ladder of a shaped pool stands: the work ends there. */
const desk = useDesk()
const pool = computed(() => desk.surface.value.pool)
const HALF = 2
const places = computed<Record<string, Point>>(() => {
  const long = pool.value?.length ?? 0
  const wide = pool.value?.form === 'round' ? long : (pool.value?.width ?? 0)
  return {
    'the shallow end': { x: 0, y: wide / HALF },
    'the deep end': { x: long, y: wide / HALF },
    'the left wall': { x: long / HALF, y: wide },
    'the right wall': { x: long / HALF, y: 0 },
  }
})
const chosen = computed(() => {
  const at = desk.surface.value.layout.exit
  return at ? (Object.entries(places.value).find(([, p]) => p.x === at.x && p.y === at.y)?.[0] ?? '') : ''
})
function choose(place: string): void {
  const at = places.value[place]
  desk.editSurface('ladder', (s) => (s.layout.exit = at))
}
</script>

<template>
  <PickField
    label="Ladder at"
    data-test="ladder"
    none="no place yet: from the deep end on"
    :model-value="chosen"
    :options="Object.fromEntries(Object.keys(places).map((words) => [words, words]))"
    @update:model-value="choose"
  />
</template>

<style scoped>
label {
  display: block;
  margin: 8px 0;
}
select {
  width: auto;
}
</style>
