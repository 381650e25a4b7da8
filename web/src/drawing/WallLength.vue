<script setup lang="ts">
import { isTyping } from '../fields/typing'
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import type { Draft } from './useDraft'
import { readQuantity, taking } from '../fields/useReader'
import TextField from '../fields/TextField.vue'

/** A length typed while drawing: the wall goes from the last corner towards the cursor. */
const props = defineProps<{ draft: Draft; towards: number }>()
const text = ref('')
const open = ref(false)
const fault = ref('')
const field = ref<InstanceType<typeof TextField> | null>(null)
let direction = 0

function begin(event: KeyboardEvent): void {
  if (open.value || isTyping(event)) return
  if (event.ctrlKey || event.metaKey || event.altKey || !/^[0-9.]$/.test(event.key)) return
  // The key itself then lands in the field.
  event.stopImmediatePropagation()
  direction = props.towards
  text.value = ''
  fault.value = ''
  open.value = true
  field.value?.focus()
}
// Before the job's own shortcuts, which digits are, too.
useEventListener(window, 'keydown', begin, { capture: true })

async function take(): Promise<void> {
  const answer = await readQuantity('length', text.value)
  if (!answer.ok) fault.value = answer.text
  else if (answer.si <= 0) fault.value = 'A wall has to be longer than zero.'
  else {
    props.draft.addWall(answer.si, direction)
    open.value = false
  }
}
</script>

<template>
  <div class="wall-length small" :class="{ open }" :data-test="open ? 'wall-length' : undefined">
    <TextField
      ref="field"
      v-model="text"
      label="Length of this wall"
      :fault="fault"
      :tabindex="open ? 0 : -1"
      autocomplete="off"
      @input="fault = ''"
      @keydown.enter.stop.prevent="taking(take)"
      @keydown.esc.stop="open = false"
      @blur="open = false"
    />
  </div>
</template>

<style scoped>
.wall-length {
  position: absolute;
  left: 12px;
  top: 12px;
  display: grid;
  gap: 4px;
  padding: 8px 12px;
  background: var(--paper);
  border: 2px solid var(--warn);
  border-radius: 3px;
  opacity: 0;
  pointer-events: none;
}
.wall-length.open {
  opacity: 1;
  pointer-events: auto;
}
</style>
