<script setup lang="ts">
import type { Product, Source } from '../../api/client'
import TickField from '../../fields/TickField.vue'
import NameField from '../../fields/NameField.vue'
import NumberField from '../../fields/NumberField.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** The sizes a product is sold in. */
type Kit = Product['kits'][number]
const props = defineProps<{ modelValue: Kit[]; from: Source }>()
const emit = defineEmits<{ 'update:modelValue': [kits: Kit[]] }>()
function change(i: number, by: Partial<Kit>): void {
  emit(
    'update:modelValue',
    props.modelValue.map((k, n) => (n === i ? { ...k, ...by } : k)),
  )
}
function add(): void {
  const name = `set ${props.modelValue.length + 1}`
  emit('update:modelValue', [...props.modelValue, { name, source: props.from }])
}
</script>

<template>
  <ul class="entries">
    <li v-for="(k, i) in modelValue" :key="i" class="kit">
      <NameField
        :label="`Name of size ${i + 1}`"
        :model-value="k.name"
        @update:model-value="change(i, { name: $event })"
      />
      <QuantityField
        kind="volume"
        :label="`Volume of size ${i + 1}`"
        :model-value="k.volume"
        positive
        @update:model-value="change(i, { volume: $event, mass: undefined })"
      />
      <QuantityField
        kind="mass"
        :label="`or mass of size ${i + 1}`"
        :model-value="k.mass"
        positive
        @update:model-value="change(i, { mass: $event, volume: undefined })"
      />
      <NumberField
        :label="`Price of size ${i + 1}`"
        :model-value="k.price"
        :least="0"
        optional
        @update:model-value="change(i, { price: $event })"
      />
      <NameField
        :label="`Article no. of size ${i + 1}`"
        :model-value="k.code ?? ''"
        @update:model-value="change(i, { code: $event || undefined })"
      />
      <TickField
        label="no longer sold"
        :model-value="k.gone"
        @update:model-value="change(i, { gone: $event || undefined })"
      />
      <button
        type="button"
        class="plain small"
        :aria-label="`Remove size ${i + 1}`"
        @click="
          emit(
            'update:modelValue',
            modelValue.filter((_, n) => n !== i),
          )
        "
      >
        ×
      </button>
    </li>
    <li><v-btn size="small" data-test="add-size" @click="add">Add a size</v-btn></li>
  </ul>
</template>

<style scoped>
.kit {
  display: grid;
  grid-template-columns: 1.3fr 1fr 1fr 1fr 1.3fr auto auto;
  gap: 8px;
  align-items: center;
}
@media (max-width: 900px) {
  .kit {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
