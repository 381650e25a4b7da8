<script setup lang="ts">
import { ref, useId, watch } from 'vue'
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
const id = useId()
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
</script>

<template>
  <div class="day-field">
    <label :for="id">{{ label }}</label>
    <input
      :id="id"
      v-model="text"
      inputmode="decimal"
      autocomplete="off"
      :aria-invalid="fault !== ''"
      :aria-describedby="fault ? `${id}-fault` : undefined"
      @input="typed"
    />
    <p v-if="fault" :id="`${id}-fault`" class="fault">{{ fault }}</p>
  </div>
</template>

<style scoped>
.day-field {
  display: grid;
  gap: 2px;
  min-width: 118px;
}
label {
  font-weight: 640;
}
input {
  height: 56px;
  padding: 0 12px;
  font: inherit;
  font-size: 1.35rem;
  font-weight: 680;
  color: var(--ink);
  background: var(--well);
  border: 2px solid var(--ink);
  border-radius: 3px;
  width: 100%;
}
.fault {
  color: var(--stop);
  margin: 0;
}
</style>
