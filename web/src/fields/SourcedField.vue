<script setup lang="ts">
import type { Source } from '../api/client'
import type { Sourced } from './grid'
import type { ReadKind } from './useReader'
import { sourceWords } from './sources'
import PickField from './PickField.vue'
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
      <PickField
        class="grow"
        :label="`Source of ${label}`"
        bare
        open
        :model-value="modelValue.source"
        :options="sourceWords"
        @update:model-value="emit('update:modelValue', { value: modelValue.value, source: $event as Source })"
      />
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
</style>
