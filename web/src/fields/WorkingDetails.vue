<script setup lang="ts">
import type { Working } from '../api/client'
import FoldPanel from './FoldPanel.vue'
import WorkingTable from './WorkingTable.vue'

/** How figures were worked out, folded away beneath them. */
defineProps<{ workings: Working[] }>()
</script>

<template>
  <FoldPanel class="small" data-test="working" title="How this was worked out">
    <WorkingTable v-for="w in workings" :key="w.title" :working="w" class="mt-2" />
  </FoldPanel>
</template>
