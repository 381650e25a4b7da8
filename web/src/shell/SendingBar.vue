<script setup lang="ts">
/** How far a file is sent, with a way to stop. */
defineProps<{ name: string; sent: number; then: string }>()
defineEmits<{ stop: [] }>()
</script>

<template>
  <p role="status" class="row">
    <span>{{ sent < 1 ? 'Sending' : then }} {{ name }} …</span>
    <v-progress-linear
      :model-value="sent * 100"
      :indeterminate="sent >= 1"
      :aria-label="`Progress of ${name}`"
      class="grow"
    />
    <v-btn size="small" @click="$emit('stop')">Stop</v-btn>
  </p>
</template>
