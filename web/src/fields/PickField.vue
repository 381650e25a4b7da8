<script setup lang="ts">
import { computed, useId } from 'vue'
import { useSession } from '../session/session'
import FieldFrame from './FieldFrame.vue'

/** A choice from a short list; the first entry stands for none. */
const props = defineProps<{
  label: string
  modelValue: string
  /** By value; or in groups, each with its own. */
  options: Record<string, string>
  none?: string
  told?: string
  /** Chosen by whoever may not change the job, too. */
  open?: boolean
  bare?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [value: string] }>()
const session = useSession()
const id = useId()
const locked = computed(() => !props.open && !session.mayEdit)
</script>

<template>
  <FieldFrame :label="label" :control="id" :told="told" :bare="bare">
    <select
      :id="id"
      class="control"
      :aria-label="label"
      :value="modelValue"
      :disabled="locked"
      @change="emit('update:modelValue', ($event.target as HTMLSelectElement).value)"
    >
      <option v-if="none" value="">{{ none }}</option>
      <option v-for="(words, value) in options" :key="value" :value="value">{{ words }}</option>
    </select>
  </FieldFrame>
</template>
