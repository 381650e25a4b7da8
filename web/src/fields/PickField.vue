<script setup lang="ts">
import { useSession } from '../features/people/session'

/** A choice from a short list; the first entry stands for none. */
defineProps<{ label: string; modelValue: string; options: Record<string, string>; none?: string }>()
const emit = defineEmits<{ 'update:modelValue': [value: string] }>()
const session = useSession()
</script>

<template>
  <label class="small">
    {{ label }}
    <select
      class="pick"
      :aria-label="label"
      :value="modelValue"
      :disabled="!session.mayEdit"
      @change="emit('update:modelValue', ($event.target as HTMLSelectElement).value)"
    >
      <option v-if="none" value="">{{ none }}</option>
      <option v-for="(words, value) in options" :key="value" :value="value">{{ words }}</option>
    </select>
  </label>
</template>

<style scoped>
.pick {
  display: block;
  width: 100%;
}
</style>
