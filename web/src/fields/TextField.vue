<script setup lang="ts">
import { computed, onMounted, ref, useAttrs, useId } from 'vue'
import FieldFrame from './FieldFrame.vue'

defineOptions({ inheritAttrs: false })

/** A line of text, or several. What else an input takes is handed on to it. */
const props = defineProps<{
  label?: string
  told?: string
  fault?: string
  lines?: number
}>()
const model = defineModel<string | number | null>()
const attrs = useAttrs()
const id = useId()
const control = ref<HTMLInputElement | HTMLTextAreaElement | null>(null)
const bare = computed(() => props.label === undefined)
const name = computed(() => props.label ?? String(attrs['aria-label'] ?? ''))
/** What places the field is its frame's, what it does is the control's. */
const outer = computed(() => ({ class: attrs.class, style: attrs.style }))
const inner = computed(() =>
  Object.fromEntries(Object.entries(attrs).filter(([key]) => key !== 'class' && key !== 'style')),
)
onMounted(() => {
  if ('autofocus' in attrs) control.value?.focus()
})
defineExpose({ focus: (): void => control.value?.focus() })
</script>

<template>
  <FieldFrame v-bind="outer" :label="name" :control="id" :told="told" :fault="fault" :bare="bare">
    <textarea
      v-if="lines"
      :id="id"
      ref="control"
      class="control"
      :rows="lines"
      :value="model ?? ''"
      v-bind="inner"
      @input="model = ($event.target as HTMLTextAreaElement).value"
    />
    <input
      v-else
      :id="id"
      ref="control"
      class="control"
      :value="model ?? ''"
      :aria-invalid="!!fault || undefined"
      :aria-describedby="told || fault ? `${id}-told` : undefined"
      v-bind="inner"
      @input="model = ($event.target as HTMLInputElement).value"
    />
  </FieldFrame>
</template>
