<script setup lang="ts">
import { computed } from 'vue'
import type { SystemLine } from '../api/client'

/** A small cut through a system: one band for each coat, bottom to top. */
const props = defineProps<{ line: SystemLine }>()
const HEIGHT = 64
const bands = computed(() => {
  const coats = props.line.system.coats
  const each = Math.min(16, (HEIGHT - 10) / Math.max(coats.length, 1))
  return coats.map((c, i) => ({
    key: c.id,
    y: HEIGHT - 10 - each * (i + 1),
    height: each,
    color: props.line.products.find((p) => p.id === c.product)?.color ?? '#999',
    grains: c.scatter !== undefined,
  }))
})
</script>

<template>
  <svg class="bands" :viewBox="`0 0 90 ${HEIGHT}`" aria-hidden="true">
    <rect x="0" :y="HEIGHT - 10" width="90" height="10" fill="#a9b3ae" />
    <g v-for="b in bands" :key="b.key">
      <rect x="0" :y="b.y" width="90" :height="b.height" :fill="b.color" stroke="#12201d" stroke-width=".6" />
      <path
        v-if="b.grains"
        :d="`M3 ${b.y + 1}h84`"
        stroke="#12201d"
        stroke-dasharray="2 4"
        stroke-width="2"
      />
    </g>
  </svg>
</template>

<style scoped>
.bands {
  width: 90px;
  flex: none;
}
</style>
