<script setup lang="ts">
import type { Hardener, Source } from '../../api/client'
import { idOf } from './useSheetDraft'
import { sheetTimes } from './sheet'
import EntryHead from './EntryHead.vue'
import NumberField from '../../fields/NumberField.vue'
import PickField from '../../fields/PickField.vue'
import PotLifePoints from './PotLifePoints.vue'
import SourcedField from '../../fields/SourcedField.vue'
import TimePoints from '../../fields/TimePoints.vue'

/** Further hardeners for the same resin, each with its own ratio and times. */
const props = defineProps<{ modelValue?: Hardener[]; from: Source }>()
const emit = defineEmits<{ 'update:modelValue': [hardeners: Hardener[] | undefined] }>()
const bases = { volume: 'by volume', mass: 'by mass' }

function put(list: Hardener[]): void {
  emit('update:modelValue', list.length > 0 ? list : undefined)
}
function change(i: number, by: Partial<Hardener>): void {
  put((props.modelValue ?? []).map((h, n) => (n === i ? { ...h, ...by } : h)))
}
function add(): void {
  const list = props.modelValue ?? []
  const name = `hardener ${list.length + 2}`
  put([...list, { id: idOf(name), name, ratio: { basis: 'volume', source: props.from }, a: 2, b: 1 }])
}
</script>

<template>
  <ul class="entries">
    <li v-for="(h, i) in modelValue ?? []" :key="h.id">
      <EntryHead
        label="Hardener"
        :name="h.name"
        @rename="change(i, { name: $event })"
        @remove="put((modelValue ?? []).filter((_, n) => n !== i))"
      />
      <div class="triple">
        <NumberField
          :label="`Parts of A, ${h.name}`"
          :model-value="h.a"
          :least="0"
          @update:model-value="change(i, { a: $event })"
        />
        <NumberField
          :label="`Parts of B, ${h.name}`"
          :model-value="h.b"
          :least="0"
          @update:model-value="change(i, { b: $event })"
        />
        <PickField
          :label="`Ratio of ${h.name}`"
          :model-value="h.ratio.basis"
          :options="bases"
          @update:model-value="change(i, { ratio: { ...h.ratio, basis: $event as 'volume' | 'mass' } })"
        />
        <SourcedField
          kind="density"
          :label="`Density of ${h.name}`"
          :model-value="h.density"
          :from="from"
          @update:model-value="change(i, { density: $event })"
        />
      </div>
      <PotLifePoints
        :model-value="h.potLife"
        :from="from"
        :name="h.name"
        @update:model-value="change(i, { potLife: $event })"
      />
      <TimePoints
        v-for="t in sheetTimes"
        :key="t.key"
        :label="`${t.label}, ${h.name}`"
        :model-value="h[t.key]"
        :from="from"
        @update:model-value="change(i, { [t.key]: $event })"
      />
    </li>
    <li><v-btn size="small" @click="add">Add a hardener</v-btn></li>
  </ul>
</template>
