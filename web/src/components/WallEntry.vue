<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Draft } from '../composables/useDraft'
import { distance } from '../lib/figures'
import { useSession } from '../stores/session'
import QuantityField from './QuantityField.vue'

const props = defineProps<{ draft: Draft }>()
const emit = defineEmits<{ close: [] }>()
const session = useSession()
const ways = [
  { label: 'up', sign: '↑', degrees: 90 },
  { label: 'right', sign: '→', degrees: 0 },
  { label: 'down', sign: '↓', degrees: 270 },
  { label: 'left', sign: '←', degrees: 180 },
]
const degrees = ref(0)
const angled = ref(false)

function add(length: number): void {
  props.draft.addWall(length, degrees.value)
}

const walls = computed(() =>
  props.draft.points.value.slice(1).map((p, i) => distance(props.draft.points.value[i] ?? p, p)),
)
const gap = computed(() => {
  const first = props.draft.points.value[0]
  const last = props.draft.points.value.at(-1)
  return first && last && props.draft.closable.value ? distance(first, last) : 0
})
</script>

<template>
  <div class="entry" data-test="wall-entry">
    <h3>{{ draft.kind.value === 'hole' ? 'Column or pit' : 'Walls' }}, as you walk them</h3>
    <p class="quiet small">
      Choose which way the next wall runs on the plan, type its length, press Enter. Clicks on the drawing add
      corners just as well.
    </p>
    <fieldset class="ways">
      <legend class="small quiet">Next wall runs</legend>
      <label v-for="w in ways" :key="w.label" :class="{ on: !angled && degrees === w.degrees }">
        <input
          v-model="degrees"
          type="radio"
          name="way"
          :value="w.degrees"
          :aria-label="w.label"
          @change="angled = false"
          @click="angled = false"
        />
        <span aria-hidden="true">{{ w.sign }}</span>
      </label>
      <label :class="{ on: angled }">
        <input type="checkbox" :checked="angled" aria-label="at an angle" @change="angled = !angled" />
        <span aria-hidden="true">∠</span>
      </label>
    </fieldset>
    <QuantityField
      v-if="angled"
      v-model="degrees"
      kind="angle"
      label="Direction, counter-clockwise from right"
    />
    <QuantityField
      kind="length"
      label="Length of the wall"
      clear-on-enter
      positive
      @update:model-value="add"
    />
    <ol v-if="walls.length > 0" class="walls small">
      <li v-for="(w, i) in walls" :key="i">{{ session.format('length', w) }}</li>
    </ol>
    <p v-if="gap > 0" class="small">
      {{ gap < 0.002 ? 'The walls close.' : `Closing wall: ${session.format('length', gap)}` }}
    </p>
    <div class="row">
      <v-btn color="primary" variant="flat" :disabled="!draft.closable.value" @click="emit('close')"
        >Close the outline</v-btn
      >
      <v-btn variant="text" :disabled="draft.points.value.length === 0" @click="draft.back()"
        >Take back</v-btn
      >
      <v-btn variant="text" @click="draft.cancel()">Cancel</v-btn>
    </div>
  </div>
</template>

<style scoped>
.entry {
  display: grid;
  gap: 10px;
}
.ways {
  border: 0;
  padding: 0;
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
}
.ways label {
  display: grid;
  place-items: center;
  width: 46px;
  height: 40px;
  border: 1px solid var(--line);
  border-radius: 3px;
  font-size: 1.2rem;
  cursor: pointer;
}
.ways label.on {
  background: var(--cure);
  color: var(--paper);
  border-color: var(--cure);
}
.ways label:focus-within {
  outline: 3px solid var(--cure);
  outline-offset: 2px;
}
.ways input {
  position: absolute;
  opacity: 0;
  pointer-events: none;
}
.walls {
  columns: 3;
  padding-left: 22px;
}
</style>
