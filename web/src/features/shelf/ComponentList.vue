<script setup lang="ts">
import { computed } from 'vue'
import type { Product, Source } from '../../api/client'
import NumberField from '../../fields/NumberField.vue'
import PickField from '../../fields/PickField.vue'
import SourcedField from '../../fields/SourcedField.vue'

/** The parts of a mix: their ratio, either basis deriving the other. */
const props = defineProps<{ sheet: Product; from: Source; derived: string }>()
const emit = defineEmits<{ update: [by: Partial<Product>] }>()
type Component = Product['components'][number]
const NAMES = ['A', 'B', 'C']
const bases = { volume: 'by volume', mass: 'by mass' }
const other = computed(() => (props.sheet.ratio.basis === 'volume' ? 'mass' : 'volume'))

function put(components: Component[]): void {
  emit('update', { components })
}
function change(i: number, by: Partial<Component>): void {
  put(props.sheet.components.map((c, n) => (n === i ? { ...c, ...by } : c)))
}
function resize(count: number): void {
  const now = props.sheet.components
  put(
    Array.from({ length: count }, (_, i) => now[i] ?? { name: NAMES[i] ?? 'C', parts: 1 }).map((c, i) => ({
      ...c,
      name: count === 1 ? 'Paint' : c.name === 'Paint' ? (NAMES[i] ?? c.name) : c.name,
    })),
  )
  if (count === 1) emit('update', { potLife: undefined, hardeners: undefined })
}
</script>

<template>
  <div class="triple">
    <PickField
      label="Parts of the mix"
      :model-value="String(sheet.components.length)"
      :options="{ '1': 'single-pack', '2': 'A and B', '3': 'A, B and C' }"
      @update:model-value="resize(Number($event))"
    />
    <PickField
      v-if="sheet.components.length > 1"
      label="Ratio counts"
      :model-value="sheet.ratio.basis"
      :options="bases"
      @update:model-value="emit('update', { ratio: { ...sheet.ratio, basis: $event as 'volume' | 'mass' } })"
    />
    <p v-if="derived" class="small quiet derived">= {{ derived }}</p>
  </div>
  <div v-for="(c, i) in sheet.components" :key="i" class="triple">
    <NumberField
      v-if="sheet.components.length > 1"
      :label="`Parts of ${c.name}`"
      :model-value="c.parts || undefined"
      :least="0"
      @update:model-value="change(i, { parts: $event })"
    />
    <NumberField
      v-if="sheet.components.length > 1"
      :label="`Parts of ${c.name} by ${other}, if printed`"
      :model-value="c.other"
      :least="0"
      optional
      @update:model-value="change(i, { other: $event || undefined })"
    />
    <SourcedField
      kind="density"
      :label="`Density of ${c.name}`"
      :model-value="c.density"
      :from="from"
      @update:model-value="change(i, { density: $event })"
    />
    <SourcedField
      v-if="sheet.components.length > 1"
      kind="span"
      :label="`Shelf life of ${c.name}, if its own`"
      :model-value="c.shelfLife"
      :from="from"
      @update:model-value="change(i, { shelfLife: $event })"
    />
  </div>
</template>

<style scoped>
.derived {
  padding-top: 20px;
}
</style>
