<script setup lang="ts">
import type { Working } from '../api/client'
import { useWorkings } from './workings'

const props = defineProps<{ workings: Working[]; weak?: boolean }>()
const shown = useWorkings()
function open(): void {
  shown.value = props.workings
}
</script>

<template>
  <button type="button" class="open-figure" :class="{ weak }" @click="open">
    <slot />
  </button>
</template>
