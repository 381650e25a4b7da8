<script setup lang="ts">
import { ref, watch } from 'vue'
import TextField from './TextField.vue'

/** A plain number: a count, a part of a ratio, a price. What is none is told and kept. */
const props = defineProps<{
  label: string
  modelValue?: number
  whole?: boolean
  least?: number
  most?: number
  /** May be left empty. */
  optional?: boolean
  told?: string
  disabled?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [n: number | undefined] }>()
const text = ref('')
const fault = ref('')
watch(
  () => props.modelValue,
  (n) => {
    text.value = n === undefined ? '' : String(n)
    fault.value = ''
  },
  { immediate: true },
)

function judge(n: number): string {
  if (!Number.isFinite(n)) return 'This is not a number. Enter digits, such as 2 or 2.5.'
  if (props.whole && !Number.isInteger(n)) return 'Enter a whole number.'
  const { least = -Infinity, most = Infinity } = props
  if (n >= least && n <= most) return ''
  return Number.isFinite(most) ? `Enter ${least} to ${most}.` : `Enter ${least} or more.`
}
function commit(): void {
  const typed = text.value.trim().replace(',', '.')
  const empty = typed === ''
  fault.value = empty ? (props.optional ? '' : 'Enter a number.') : judge(Number(typed))
  if (!fault.value) emit('update:modelValue', empty ? undefined : Number(typed))
}
</script>

<template>
  <TextField
    v-model="text"
    :label="label"
    :told="told"
    :fault="fault"
    :disabled="disabled"
    :inputmode="whole ? 'numeric' : 'decimal'"
    autocomplete="off"
    @change="commit"
  />
</template>
