<script setup lang="ts">
import { computed } from 'vue'
import type { Product, Source } from '../../api/client'
import TimePoints from '../../fields/TimePoints.vue'

/** The thickest film of one coat by the temperature of the slab. */
type FilmAt = NonNullable<Product['filmMaxAt']>[number]
const props = defineProps<{ modelValue?: FilmAt[]; from: Source }>()
const emit = defineEmits<{ 'update:modelValue': [points: FilmAt[] | undefined] }>()
const points = computed(() => props.modelValue?.map(({ film, ...p }) => ({ ...p, after: film })))
</script>

<template>
  <TimePoints
    label="Max. wet film by slab temperature"
    kind="film"
    :model-value="points"
    :from="from"
    @update:model-value="
      emit(
        'update:modelValue',
        $event?.map(({ at, after, source }) => ({ at, film: after, source })),
      )
    "
  />
</template>
