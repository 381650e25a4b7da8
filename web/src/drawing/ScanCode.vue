<script setup lang="ts">
import { encode } from 'uqr'
import { computed } from 'vue'

/** A text as a code to be scanned. */
const props = defineProps<{ text: string; label: string }>()
const code = computed(() => encode(props.text))
const dots = computed(() =>
  code.value.data
    .flatMap((row, y) => row.flatMap((dark, x) => (dark ? [`M${x} ${y}h1v1h-1z`] : [])))
    .join(''),
)
</script>

<template>
  <svg :viewBox="`0 0 ${code.size} ${code.size}`" role="img" :aria-label="label">
    <rect :width="code.size" :height="code.size" fill="#fff" />
    <path :d="dots" fill="#000" />
  </svg>
</template>
