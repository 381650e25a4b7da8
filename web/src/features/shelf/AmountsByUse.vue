<script setup lang="ts">
import type { Product } from '../../api/client'
import NameField from '../../fields/NameField.vue'
import PrintedAmount from '../cards/PrintedAmount.vue'

/** Amounts that a sheet prints for certain uses or grounds; a coat is given one of them by a click. */
type ForUse = NonNullable<Product['amounts']>[number]
const props = defineProps<{ modelValue?: ForUse[] }>()
const emit = defineEmits<{ 'update:modelValue': [amounts: ForUse[] | undefined] }>()
const FIRST = 5000
function put(amounts: ForUse[]): void {
  emit('update:modelValue', amounts.length > 0 ? amounts : undefined)
}
function change(i: number, by: Partial<ForUse>): void {
  put((props.modelValue ?? []).map((a, n) => (n === i ? { ...a, ...by } : a)))
}
</script>

<template>
  <ul v-if="modelValue?.length" class="entries">
    <li v-for="(a, i) in modelValue" :key="i" class="amount">
      <NameField
        :label="`Amount ${i + 1} is for`"
        :model-value="a.for"
        @update:model-value="change(i, { for: $event })"
      />
      <PrintedAmount
        :name="`Amount ${i + 1}`"
        :model-value="a"
        @update:model-value="change(i, $event ? { ...$event, for: a.for } : {})"
      />
      <v-btn
        size="small"
        variant="text"
        :aria-label="`Leave out amount ${i + 1}`"
        @click="put(modelValue.filter((_, n) => n !== i))"
        >Remove</v-btn
      >
    </li>
  </ul>
  <p>
    <v-btn
      size="small"
      variant="text"
      data-test="add-amount"
      @click="put([...(modelValue ?? []), { for: '', basis: 'spread', value: FIRST }])"
      >Amount for another use or ground</v-btn
    >
  </p>
</template>

<style scoped>
.entries {
  padding: 0;
  list-style: none;
}
.amount {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 2fr) auto;
  gap: 10px;
  align-items: start;
  margin-bottom: 8px;
}
@media (max-width: 700px) {
  .amount {
    grid-template-columns: 1fr;
  }
}
</style>
