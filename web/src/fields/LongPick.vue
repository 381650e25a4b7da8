<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'

/** The control of a choice from a list too long for a glance: typing narrows it. */
const props = defineProps<{
  id: string
  label: string
  bare?: boolean
  modelValue: string
  /** The words by value, those of a group below its title. */
  entries: { title?: string; options: [string, string][] }[]
  none?: string
  fault?: string
  told?: string
  disabled: boolean
}>()
const emit = defineEmits<{ choose: [value: string] }>()
type Item = { title: string; value: string } | { title: string; type: 'subheader' }
const items = computed<Item[]>(() => [
  ...(props.none === undefined ? [] : [{ title: props.none, value: '' }]),
  ...props.entries.flatMap((g): Item[] => [
    ...(g.title ? [{ title: g.title, type: 'subheader' as const }] : []),
    ...g.options.map(([value, title]) => ({ title, value })),
  ]),
])
const words = ref('')
async function choose(value: string | null): Promise<void> {
  const before = props.modelValue
  // Emptied words choose nothing: what was chosen stands again when the field is left.
  if (value === null || value === before) return
  emit('choose', value)
  await nextTick()
  // Where the choice was an act, such as adding something, nothing stays chosen.
  if (props.modelValue === before) words.value = ''
}
function begin(event: FocusEvent): void {
  ;(event.target as HTMLInputElement).select()
}
</script>

<template>
  <v-autocomplete
    :id="id"
    v-model:search="words"
    :model-value="modelValue"
    :items="items"
    :label="bare ? undefined : label"
    :aria-label="label"
    :aria-describedby="told ? `${id}-told` : undefined"
    :hide-details="!fault"
    :error-messages="fault"
    :disabled="disabled"
    auto-select-first
    no-data-text="Nothing matches. Try fewer letters."
    @update:model-value="choose"
    @focus="begin"
    ><template #loader
  /></v-autocomplete>
</template>
