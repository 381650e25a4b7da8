<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import { useDebounceFn, useEventListener } from '@vueuse/core'
import { isTyping } from '../../fields/typing'
import { computed, onMounted, ref } from 'vue'
import { useSession } from '../../session/session'
import type { useWalk } from './useWalk'

const props = defineProps<{ walk: ReturnType<typeof useWalk> }>()
const emit = defineEmits<{ close: [] }>()
const session = useSession()
const example = computed(() =>
  session.units === 'us'
    ? "or a rectangle: 27' × 18'; or a whole run: 14' 3, left, 9' 6, right 30, 4'"
    : 'or a rectangle: 8 m × 5 m; or a whole run: 7.4 m, left, 5.2 m, right 30, 2 m',
)
const { heading } = props.walk
const field = ref<{ focus: () => void } | null>(null)
onMounted(() => field.value?.focus())
const text = ref('')
const echo = ref('')
const fault = ref('')

const READ_MS = 140
const understand = useDebounceFn(async () => {
  const asked = text.value
  if (asked.trim() === '') return
  const walked = await props.walk.read(asked)
  if (asked !== text.value) return
  fault.value = typeof walked === 'string' ? walked : ''
  echo.value = typeof walked === 'string' ? '' : walked.legs.map((l) => `= ${l.echo}`).join(', ')
}, READ_MS)

function typed(): void {
  echo.value = fault.value = ''
  void understand()
}

const turns: Record<string, number> = { ArrowRight: 0, ArrowUp: 90, ArrowLeft: 180, ArrowDown: 270 }
const letters: Record<string, number> = { r: 0, u: 90, l: 180, d: 270 }
/** Turns the next wall by the arrow keys while nothing is typed; by letters where nothing takes them. */
function turn(event: KeyboardEvent): void {
  const typing = isTyping(event)
  const to = typing ? turns[event.key] : (turns[event.key] ?? letters[event.key])
  if (to === undefined || event.ctrlKey || event.metaKey || event.altKey) return
  if (typing && (text.value !== '' || !(event.target as HTMLElement).closest('[data-test=walk]'))) return
  heading.value = to
  event.preventDefault()
}
useEventListener(window, 'keydown', turn)

async function take(): Promise<void> {
  const asked = text.value
  if (asked.trim() === '') return
  fault.value = await props.walk.take(asked, () => emit('close'))
  if (fault.value === '' && asked === text.value) text.value = echo.value = ''
}
</script>

<template>
  <TextField
    ref="field"
    v-model="text"
    data-test="walk"
    label="Length of the wall"
    :told="echo || example"
    :fault="fault"
    autocomplete="off"
    @input="typed"
    @keydown.enter.prevent="take"
  />
</template>
