<script setup lang="ts">
import { computed } from 'vue'
import type { Point } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'

/** Where the ladder of a shaped pool stands: the work ends there. */
const desk = useDesk()
const session = useSession()
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
function choose(event: Event): void {
  const at = places.value[(event.target as HTMLSelectElement).value]
  desk.editSurface('ladder', (s) => (s.layout.exit = at))
}
</script>

<template>
  <label class="small"
    >Ladder at
    <select
      class="control"
      aria-label="Ladder at"
      data-test="ladder"
      :value="chosen"
      :disabled="!session.mayEdit"
      @change="choose"
    >
      <option value="">no place yet: from the deep end on</option>
      <option v-for="(_, words) in places" :key="words" :value="words">{{ words }}</option>
    </select></label
  >
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
