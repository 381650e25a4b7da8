<script setup lang="ts">
/** A choice that holds or does not. */
defineProps<{
  label?: string
  modelValue?: boolean
  disabled?: boolean
  /** What is heard instead of the label, where that says too little by itself. */
  heard?: string
}>()
const emit = defineEmits<{ 'update:modelValue': [holds: boolean] }>()
</script>

<template>
  <v-checkbox
    class="tick"
    :label="label"
    :model-value="modelValue ?? false"
    :disabled="disabled"
    :aria-label="heard"
    @update:model-value="emit('update:modelValue', $event === true)"
  >
    <template v-if="$slots.default" #label><slot /></template>
  </v-checkbox>
</template>
