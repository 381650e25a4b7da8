<script setup lang="ts">
import type { Product, Source } from '../api/client'
import QuantityField from './QuantityField.vue'

/** Pot life over temperature and mass. */
type PotLife = NonNullable<Product['potLife']>[number]
const props = defineProps<{ modelValue?: PotLife[]; from: Source; name?: string }>()
const emit = defineEmits<{ 'update:modelValue': [points: PotLife[] | undefined] }>()
const ROOM = 20
const STEP = 10
const HALF = 2

function put(points: PotLife[]): void {
  emit('update:modelValue', points.length > 0 ? points : undefined)
}
function add(lasts?: number): void {
  const last = props.modelValue?.at(-1)
  const next = last
    ? { at: last.at + STEP, lasts: last.lasts / HALF, mass: last.mass }
    : { at: ROOM, lasts: lasts ?? 0 }
  put([...(props.modelValue ?? []), { ...next, source: props.from }])
}
function change(i: number, by: Partial<PotLife>): void {
  put((props.modelValue ?? []).map((p, n) => (n === i ? { ...p, ...by } : p)))
}
const label = (words: string): string => (props.name ? `${words}, ${props.name}` : words)
</script>

<template>
  <div class="points">
    <span class="what">Pot life</span>
    <div v-for="(p, i) in modelValue ?? []" :key="i" class="point">
      <QuantityField
        kind="span"
        bare
        :label="label(`Pot life, point ${i + 1}`)"
        :model-value="p.lasts"
        positive
        @update:model-value="change(i, { lasts: $event })"
      />
      <span class="small">at</span>
      <QuantityField
        kind="temperature"
        bare
        :label="label(`Pot life at ${i + 1}`)"
        :model-value="p.at"
        @update:model-value="change(i, { at: $event })"
      />
      <span class="small">on</span>
      <QuantityField
        kind="mass"
        bare
        :label="label(`Pot life of ${i + 1}`)"
        :model-value="p.mass"
        @update:model-value="change(i, { mass: $event || undefined })"
      />
      <button
        type="button"
        class="plain small"
        :aria-label="label(`Leave out pot life ${i + 1}`)"
        @click="put((modelValue ?? []).filter((_, n) => n !== i))"
      >
        ×
      </button>
    </div>
    <QuantityField
      v-if="!modelValue?.length"
      kind="span"
      :label="label('Pot life')"
      hint="at 20 °C, to be changed"
      positive
      @update:model-value="add($event)"
    />
    <button v-else type="button" class="plain small" :aria-label="label('Another pot life')" @click="add()">
      +
    </button>
  </div>
</template>

<style scoped>
.points {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}
.what {
  width: 7.5em;
  font-weight: 620;
}
.point {
  display: grid;
  grid-template-columns: 5.6em auto 4.8em auto 5.2em auto;
  gap: 4px;
  align-items: center;
}
.point :deep(.v-field__input) {
  padding-inline: 8px;
}
</style>
