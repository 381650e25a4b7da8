<script setup lang="ts">
/** A control of the library with, below it, how it was read or where it comes from. */
defineProps<{
  /** The id of the control that this belongs to. */
  control: string
  told?: string
}>()
</script>

<template>
  <div class="field">
    <slot />
    <p v-if="told" :id="`${control}-told`" class="field-told">{{ told }}</p>
  </div>
</template>
