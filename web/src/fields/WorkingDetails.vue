<script setup lang="ts">
import type { Working } from '../api/client'
import WorkingTable from './WorkingTable.vue'

/** How figures were worked out, folded away beneath them. */
defineProps<{ workings: Working[] }>()
</script>

<template>
  <details class="small" data-test="working">
    <summary>How this was worked out</summary>
    <WorkingTable v-for="w in workings" :key="w.title" :working="w" class="mt-2" />
  </details>
</template>
