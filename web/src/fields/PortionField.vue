<script setup lang="ts">
import type { Portion, Source } from '../api/client'
import PickField from './PickField.vue'
import SourcedField from './SourcedField.vue'

/** A percentage with what it is a percentage of. */
const props = defineProps<{ label: string; modelValue?: Portion; from: Source }>()
const emit = defineEmits<{ 'update:modelValue': [portion: Portion | undefined] }>()
const bases = { a: 'of A', 'a+b': 'of A + B', mix: 'of the finished mix' }
</script>

<template>
  <div>
    <SourcedField
      kind="fraction"
      :label="label"
      :model-value="modelValue"
      :from="from"
      @update:model-value="
        emit('update:modelValue', $event && { ...$event, of: props.modelValue?.of ?? 'a+b' })
      "
    />
    <PickField
      v-if="modelValue"
      :label="`${label}: a share`"
      :model-value="modelValue.of"
      :options="bases"
      @update:model-value="emit('update:modelValue', { ...modelValue, of: $event as Portion['of'] })"
    />
  </div>
</template>
