<script setup lang="ts">
import { computed } from 'vue'
import type { Point } from '../../api/client'
import { boxAround, rectangle } from '../../drawing/figures'
import { useSession } from '../../session/session'
import QuantityField from '../../fields/QuantityField.vue'

/** The measures of a rectangle and of where it stands from a point. */
const props = defineProps<{ ring: Point[]; from: Point; what: string }>()
const emit = defineEmits<{ ring: [points: Point[], label: string] }>()
const session = useSession()
const box = computed(() => boxAround(props.ring))
const square = computed(() => {
  const b = box.value
  return (
    !!b &&
    props.ring.length === 4 &&
    props.ring.every((p) => (p.x === b.left || p.x === b.right) && (p.y === b.bottom || p.y === b.top))
  )
})
type Field = 'length' | 'depth' | 'left' | 'front'
const fields: Record<Field, string> = {
  length: 'Length',
  depth: 'Front to back',
  left: 'From the left',
  front: 'From the front',
}
const values = computed<Record<Field, number>>(() => {
  const b = box.value ?? { left: 0, right: 0, bottom: 0, top: 0 }
  return {
    length: b.right - b.left,
    depth: b.top - b.bottom,
    left: b.left - props.from.x,
    front: b.bottom - props.from.y,
  }
})
function set(field: Field, value: number): void {
  const v = { ...values.value, [field]: value }
  emit('ring', rectangle(props.from.x + v.left, props.from.y + v.front, v.length, v.depth), field)
}
</script>

<template>
  <div v-if="square" class="pair">
    <QuantityField
      v-for="(words, field) in fields"
      :key="field"
      kind="length"
      :label="`${words} of ${what}`"
      :model-value="values[field]"
      :disabled="!session.mayEdit"
      :positive="field === 'length' || field === 'depth'"
      @update:model-value="set(field, $event)"
    />
  </div>
  <p v-else class="small quiet">Drawn with {{ ring.length }} corners; drag them on the plan.</p>
</template>
