<script setup lang="ts">
import type { Working } from '../api/client'
import { useDesk } from '../features/job/useEditor'

const props = defineProps<{ workings: Working[]; weak?: boolean }>()
const desk = useDesk()
function open(): void {
  desk.workings.value = props.workings
}
</script>

<template>
  <button type="button" class="open-figure" :class="{ weak }" title="How this was worked out" @click="open">
    <slot />
  </button>
</template>
