<script setup lang="ts">
import TickField from './TickField.vue'

/** Any number of choices from a short list. */
const props = defineProps<{ label: string; options: Record<string, string>; modelValue?: string[] }>()
const emit = defineEmits<{ 'update:modelValue': [value: string[] | undefined] }>()
function turn(value: string): void {
  const now = props.modelValue ?? []
  const next = now.includes(value) ? now.filter((v) => v !== value) : [...now, value]
  emit('update:modelValue', next.length > 0 ? next : undefined)
}
</script>

<template>
  <fieldset class="ticks small">
    <legend>{{ label }}</legend>
    <TickField
      v-for="(name, value) in options"
      :key="value"
      :label="name"
      :model-value="modelValue?.includes(value)"
      @update:model-value="turn(value)"
    />
  </fieldset>
</template>

<style scoped>
.ticks {
  border: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
}
legend {
  font-weight: 640;
  padding: 0;
}
</style>
