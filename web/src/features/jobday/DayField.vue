<script setup lang="ts">
import { ref, watch } from 'vue'
import TextField from '../../fields/TextField.vue'
import type { Kind } from '../../session/units'
import { useSession } from '../../session/session'

/**
 * A quantity typed with a wet glove: tall, read on this device, with what was understood.
 * Text that cannot be read is NaN, so that nothing is logged without it.
 */
const props = defineProps<{
  kind: Kind
  label: string
  modelValue?: number
  read: (kind: Kind, text: string) => { si: number; echo: string }
}>()
const emit = defineEmits<{ 'update:modelValue': [si: number | undefined] }>()
const session = useSession()
const text = ref('')
const fault = ref('')
let sent: number | undefined
watch(
  () => props.modelValue,
  (si) => {
    if (!Object.is(si, sent)) text.value = si === undefined ? '' : session.format(props.kind, si)
  },
  { immediate: true },
)
function typed(): void {
  fault.value = ''
  if (text.value.trim() === '') {
    sent = undefined
  } else {
    try {
      sent = props.read(props.kind, text.value).si
    } catch (error) {
      fault.value = error instanceof Error ? error.message : String(error)
      sent = NaN
    }
  }
  emit('update:modelValue', sent)
}
// What was typed while the rules were still loading is read once they are here.
watch(
  () => props.read,
  () => Number.isNaN(sent) && typed(),
)
</script>

<template>
  <TextField
    v-model="text"
    class="day-text figure"
    :label="label"
    :fault="fault"
    inputmode="decimal"
    autocomplete="off"
    @input="typed"
  />
</template>
