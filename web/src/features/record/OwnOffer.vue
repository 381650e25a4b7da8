<script setup lang="ts">
import type { RecordLearnt } from '../../api/client'
import { restsOn } from './own'

/** A figure of own floors beside the field that it can go into. */
defineProps<{
  told: string
  label: string
  estimate: RecordLearnt['estimates'][number]
}>()
const emit = defineEmits<{ take: [] }>()
</script>

<template>
  <v-btn
    size="small"
    variant="text"
    data-test="own-offer"
    :aria-label="`${label}: ${told}`"
    @click="emit('take')"
    >Own floors: {{ told }}, {{ restsOn(estimate) }}</v-btn
  >
</template>
