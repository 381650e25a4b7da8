<script setup lang="ts">
import type { Product, Source } from '../api/client'
import type { SourcedFieldOf } from '../features/shelf/sheet'
import SourcedField from './SourcedField.vue'

/** A group of a sheet's sourced values. */
defineProps<{ fields: SourcedFieldOf[]; sheet: Product; from: Source }>()
const emit = defineEmits<{ update: [by: Partial<Product>] }>()
</script>

<template>
  <SourcedField
    v-for="f in fields"
    :key="f.key"
    :kind="f.kind"
    :label="f.label"
    :model-value="sheet[f.key]"
    :from="from"
    @update:model-value="emit('update', { [f.key]: $event })"
  />
</template>
