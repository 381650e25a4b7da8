<script setup lang="ts">
/**
 * What every field has, at the same place: its label above, its control, and
 * below it how it was read or where it comes from, or what is wrong with it.
 */
defineProps<{
  label: string
  /** The id of the control that the label belongs to. */
  control: string
  /** How it was read, or where it comes from. */
  told?: string
  fault?: string
  /** The label is heard, not seen: something beside the field says what it is. */
  bare?: boolean
}>()
</script>

<template>
  <div class="field" :class="{ faulty: fault }">
    <label v-if="!bare" class="field-label" :for="control">{{ label }}</label>
    <slot />
    <p v-if="fault" :id="`${control}-told`" class="field-told fault" role="alert">{{ fault }}</p>
    <p v-else-if="told" :id="`${control}-told`" class="field-told">{{ told }}</p>
  </div>
</template>
