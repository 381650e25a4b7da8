<script setup lang="ts">
import { computed, onMounted, ref, useAttrs, useId } from 'vue'
import FieldFrame from './FieldFrame.vue'

defineOptions({ inheritAttrs: false })

/** A line of text, or several. What else the library's field takes is handed on to it. */
const props = defineProps<{
  /** Without one, something beside the field says what it is, and aria-label names it. */
  label?: string
  told?: string
  fault?: string
  lines?: number
}>()
const model = defineModel<string | number | null>()
const attrs = useAttrs()
const id = useId()
const control = ref<{ focus: () => void } | null>(null)
/** What places the field is its frame's, what it does is the control's. */
const outer = computed(() => ({ class: attrs.class, style: attrs.style }))
const inner = computed(() => {
  return {
    ...attrs,
    class: undefined,
    style: undefined,
    id,
    label: props.label,
    errorMessages: props.fault,
    hideDetails: !props.fault,
    'aria-invalid': !!props.fault || undefined,
    'aria-describedby': props.fault ? `${id}-messages` : props.told ? `${id}-told` : undefined,
    ...(props.label === undefined ? { 'aria-labelledby': undefined } : {}),
  }
})
onMounted(() => {
  if ('autofocus' in attrs) control.value?.focus()
})
defineExpose({ focus: (): void => control.value?.focus() })
</script>

<template>
  <FieldFrame v-bind="outer" :control="id" :told="fault ? '' : told">
    <!-- Nothing loads in these: the library's bar for it would cost a layout each. -->
    <v-textarea v-if="lines" ref="control" v-model="model" :rows="lines" no-resize v-bind="inner"
      ><template #loader
    /></v-textarea>
    <v-text-field v-else ref="control" v-model="model" v-bind="inner"><template #loader /></v-text-field>
  </FieldFrame>
</template>
