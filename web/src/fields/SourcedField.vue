<script setup lang="ts">
import type { Source } from '../api/client'
import type { Sourced } from './grid'
import type { ReadKind } from './useReader'
import { sourceWords } from './sources'
import QuantityField from './QuantityField.vue'

/** A value with where it came from; it can be left out. */
const props = defineProps<{
  label: string
  kind: ReadKind
  modelValue?: Sourced
  from: Source
  needed?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [value: Sourced | undefined] }>()
</script>

<template>
  <div class="sourced">
    <QuantityField
      :kind="kind"
      :label="label"
      :model-value="modelValue?.value"
      @update:model-value="
        emit('update:modelValue', { value: $event, source: props.modelValue?.source ?? from })
      "
    />
    <div v-if="modelValue" class="row from">
      <select
        class="control"
        :aria-label="`Source of ${label}`"
        :value="modelValue.source"
        @change="
          emit('update:modelValue', {
            value: modelValue.value,
            source: ($event.target as HTMLSelectElement).value as Source,
          })
        "
      >
        <option v-for="(words, s) in sourceWords" :key="s" :value="s">{{ words }}</option>
      </select>
      <button
        v-if="!needed"
        type="button"
        class="plain small"
        :aria-label="`Leave out ${label}`"
        @click="emit('update:modelValue', undefined)"
      >
        leave out
      </button>
    </div>
  </div>
</template>

<style scoped>
.from {
  margin-top: 3px;
  gap: 6px;
}
.from .control {
  flex: 1;
  min-width: 0;
  padding-block: 2px;
}
</style>
