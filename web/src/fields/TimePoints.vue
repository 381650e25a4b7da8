<script setup lang="ts">
import type { Source, TimeAt } from '../api/client'
import QuantityField from './QuantityField.vue'

/** Times over temperature, or films, as a sheet prints them; some with the mass they were measured on. */
type Point = TimeAt & { mass?: number }
const props = defineProps<{
  label: string
  modelValue?: Point[]
  from: Source
  weighed?: boolean
  kind?: 'span' | 'film'
}>()
const emit = defineEmits<{ 'update:modelValue': [points: Point[] | undefined] }>()
const ROOM = 20
const STEP = 10
const HALF = 2

function put(points: Point[]): void {
  emit('update:modelValue', points.length > 0 ? points : undefined)
}
/** A further point is offered ten degrees warmer at half the time, to be overtyped. */
function add(after?: number): void {
  const points = props.modelValue ?? []
  const last = points.at(-1)
  const next = last
    ? { at: last.at + STEP, after: last.after / HALF, mass: last.mass }
    : { at: ROOM, after: after ?? 0 }
  put([...points, { ...next, source: props.from }])
}
function change(i: number, by: Partial<Point>): void {
  put((props.modelValue ?? []).map((p, n) => (n === i ? { ...p, ...by } : p)))
}
</script>

<template>
  <div class="points">
    <span class="what">{{ label }}</span>
    <div v-for="(p, i) in modelValue ?? []" :key="i" :class="['point', { weighed }]">
      <QuantityField
        :kind="kind ?? 'span'"
        bare
        :label="`${label}, point ${i + 1}`"
        :model-value="p.after"
        positive
        @update:model-value="change(i, { after: $event })"
      />
      <span class="small">at</span>
      <QuantityField
        kind="temperature"
        bare
        :label="`at, ${label} ${i + 1}`"
        :model-value="p.at"
        @update:model-value="change(i, { at: $event })"
      />
      <template v-if="weighed">
        <span class="small">on</span>
        <QuantityField
          kind="mass"
          bare
          :label="`${label} of ${i + 1}`"
          :model-value="p.mass"
          @update:model-value="change(i, { mass: $event || undefined })"
        />
      </template>
      <button
        type="button"
        class="plain small"
        :aria-label="`Leave out point ${i + 1} of ${label}`"
        @click="put((modelValue ?? []).filter((_, n) => n !== i))"
      >
        ×
      </button>
    </div>
    <QuantityField
      v-if="!modelValue?.length"
      :kind="kind ?? 'span'"
      :label="label"
      told="at 20 °C, to be changed"
      positive
      @update:model-value="add($event)"
    />
    <button v-else type="button" class="plain small" :aria-label="`Another point of ${label}`" @click="add()">
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
  grid-template-columns: 5.6em auto 4.8em auto;
  gap: 4px;
  align-items: center;
}
.point.weighed {
  grid-template-columns: 5.6em auto 4.8em auto 5.2em auto;
}
.point :deep(.v-field__input) {
  padding-inline: 8px;
}
</style>
