<script setup lang="ts">
import { ref } from 'vue'
import type { DayAtJob } from './useDay'

/** What is worth knowing, in one touch or in own words; and what was done otherwise, with who decided. */
const props = defineProps<{ here: DayAtJob; task: string }>()
const text = ref('')
const who = ref('')
const said = ref('')
const picks = [
  'Thin spot brushed in',
  'Hair or lint taken out',
  'Puddle spread',
  'Drip cut off',
  'Roller marks rolled again',
  'Insects',
  'Draught: door closed',
  'Bubbles: spiked again',
]
async function note(words: string, decided?: string): Promise<void> {
  const kept = await props.here.log(decided ? 'deviation' : 'note', props.task, {
    text: words,
    reason: decided,
  })
  if (kept) said.value = `Logged: ${words}.`
}
async function own(): Promise<void> {
  await note(text.value, who.value || undefined)
  text.value = ''
}
</script>

<template>
  <div class="day-line">
    <button v-for="n in picks" :key="n" type="button" class="touch" @click="note(n)">{{ n }}</button>
    <form class="day-line own" @submit.prevent="own">
      <label class="day-text">Note<input v-model="text" maxlength="600" required /></label>
      <label class="day-text"
        >Decided by, if the plan was not followed<input v-model="who" maxlength="120"
      /></label>
      <button type="submit" class="touch main">Log it</button>
    </form>
    <p v-if="said" role="status">{{ said }}</p>
  </div>
</template>

<style scoped>
.own {
  flex-basis: 100%;
}
</style>
