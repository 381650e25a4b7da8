<script setup lang="ts">
import TextField from './TextField.vue'
import { useSession } from '../session/session'

defineProps<{ label: string; modelValue: string; told?: string; locked?: boolean }>()
const emit = defineEmits<{ 'update:modelValue': [name: string] }>()
const session = useSession()
</script>

<template>
  <TextField
    :model-value="modelValue"
    :label="label"
    :told="told"
    maxlength="120"
    :readonly="!session.mayEdit || locked"
    @change="(e: Event) => emit('update:modelValue', (e.target as HTMLInputElement).value.trim())"
  />
</template>
