<script setup lang="ts">
import { computed } from 'vue'
import type { Product, Source } from '../../api/client'
import TimePoints from '../../fields/TimePoints.vue'

/** Pot life over temperature and the mass it was measured on. */
type PotLife = NonNullable<Product['potLife']>[number]
const props = defineProps<{ modelValue?: PotLife[]; from: Source; name?: string }>()
const emit = defineEmits<{ 'update:modelValue': [points: PotLife[] | undefined] }>()
const points = computed(() => props.modelValue?.map(({ lasts, ...p }) => ({ ...p, after: lasts })))
</script>

<template>
  <TimePoints
    :label="name ? `Pot life, ${name}` : 'Pot life'"
    :model-value="points"
    :from="from"
    weighed
    @update:model-value="
      emit(
        'update:modelValue',
        $event?.map(({ after, ...p }) => ({ ...p, lasts: after })),
      )
    "
  />
</template>
