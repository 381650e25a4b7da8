<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, refusal } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { windsLeft } from '../../drawing/figures'
import QuantityField from '../../fields/QuantityField.vue'

/** Turns a straight wall into a round bay by its rise. */
const desk = useDesk()
const wall = ref(0)
const rise = ref<number>()
const inward = ref(false)
const trouble = ref('')
const outline = computed(() => desk.surface.value.floor.outline)
const SHOWN = 40
watch(outline, () => {
  if (wall.value >= outline.value.length) wall.value = 0
})

async function round(): Promise<void> {
  const ring = outline.value
  const from = ring[wall.value]
  const to = ring[(wall.value + 1) % ring.length]
  if (!from || !to || !rise.value) return
  trouble.value = ''
  const out = windsLeft(ring) === inward.value ? -rise.value : rise.value
  try {
    const { data, error } = await api.POST('/api/arc', { body: { from, to, rise: out } })
    if (!data) trouble.value = refusal(error, 'This wall cannot be rounded.')
    else
      desk.editSurface(
        'round wall',
        (s) => (s.floor.outline = s.floor.outline.toSpliced(wall.value + 1, 0, ...data)),
      )
    rise.value = undefined
  } catch {
    trouble.value = 'The server does not answer; the wall stays straight for now.'
  }
}
</script>

<template>
  <div class="round" data-test="round-wall">
    <label class="small">
      Round wall
      <select v-model="wall" class="pick" aria-label="Wall to round">
        <option v-for="(_, i) in outline.slice(0, SHOWN)" :key="i" :value="i">{{ i + 1 }}</option>
      </select>
    </label>
    <QuantityField v-model="rise" kind="length" label="Rise of the bay" positive />
    <label class="small"><input v-model="inward" type="checkbox" /> inward</label>
    <v-btn size="small" :disabled="!rise" @click="round">Round it</v-btn>
    <p v-if="trouble" class="small" role="alert">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.round {
  display: grid;
  grid-template-columns: auto 1fr auto auto;
  gap: 10px;
  align-items: center;
  margin: 10px 0;
}
</style>
