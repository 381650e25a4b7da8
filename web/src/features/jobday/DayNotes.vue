<script setup lang="ts">
import { ref } from 'vue'
import type { DayAtJob } from './useDay'
import TextField from '../../fields/TextField.vue'

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
      <TextField v-model="text" class="day-text" label="Note" maxlength="600" required />
      <TextField
        v-model="who"
        class="day-text"
        label="Decided by, if the plan was not followed"
        maxlength="120"
      />
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
