<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { noteUnread, readQuantity, taking, type ReadKind, type Reading } from './useReader'
import { useSession } from '../session/session'
import TextField from './TextField.vue'

const props = defineProps<{
  kind: ReadKind
  label: string
  modelValue?: number
  told?: string
  disabled?: boolean
  positive?: boolean
  /** The label is heard, not seen: something beside the field says what it is. */
  bare?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [si: number] }>()

const session = useSession()
const shown = computed(() =>
  props.modelValue === undefined ? '' : session.format(props.kind, props.modelValue),
)
const text = ref(shown.value)
const typing = ref(false)
const reading = ref<Reading | null>(null)

const itself = Symbol('field')
onBeforeUnmount(() => noteUnread(itself))

/** The input while it has the focus. */
let held: HTMLInputElement | null = null

watch(shown, async (value) => {
  if (typing.value) return
  text.value = value
  // A new figure under a resting cursor is selected again, so that what is
  // typed next replaces it instead of being hung on behind.
  await nextTick()
  if (!typing.value) held?.select()
})

function enter(event: FocusEvent): void {
  held = event.target as HTMLInputElement
  held.select()
}

async function understand(): Promise<Reading | null> {
  const asked = text.value
  if (asked.trim() === '') return null
  const answer = await readQuantity(props.kind, asked)
  const judged: Reading =
    answer.ok && props.positive && answer.si <= 0
      ? { ok: false, text: 'This has to be more than zero.' }
      : answer
  // What was taken meanwhile is told by its value, not as still being read.
  if (typing.value && asked === text.value) reading.value = judged
  return judged
}
const soon = useDebounceFn(() => (typing.value ? understand() : null), 140)

function typed(): void {
  typing.value = true
  reading.value = null
  noteUnread(itself)
  void soon()
}

/** What is being taken just now: Enter and the leaving that follows it are one. */
let inHand: string | null = null

async function commit(): Promise<void> {
  const mine = text.value
  if (!typing.value || inHand === mine) return
  inHand = mine
  const answer = await understand()
  if (inHand === mine) inHand = null
  // What was typed since is taken by its own Enter or leaving, also where that came before this answer.
  if (text.value !== mine) return
  if (!answer?.ok) return noteUnread(itself, props.label)
  typing.value = false
  reading.value = null
  emit('update:modelValue', answer.si)
  text.value = answer.echo
}

function leave(): void {
  held = null
  if (text.value.trim() === '') revert()
  else void taking(commit)
}

function revert(): void {
  typing.value = false
  reading.value = null
  noteUnread(itself)
  text.value = shown.value
}

const echo = computed(() => (reading.value?.ok ? `= ${reading.value.echo}` : props.told))
const fault = computed(() => (reading.value && !reading.value.ok ? reading.value.text : ''))
</script>

<template>
  <TextField
    v-model="text"
    class="quantity"
    :label="bare ? undefined : label"
    :aria-label="bare ? label : undefined"
    :told="echo"
    :fault="fault"
    :disabled="disabled"
    autocomplete="off"
    @focus="enter"
    @input="typed"
    @keydown.enter.prevent="taking(commit)"
    @keydown.esc.stop="revert"
    @blur="leave"
  />
</template>
