<script setup lang="ts">
import { computed, ref } from 'vue'
import type { RecordCoat, RecordCoatDay } from '../../api/client'
import TextField from '../../fields/TextField.vue'
import { useSession } from '../../session/session'
import type { DayAtJob } from './useDay'

/** What is decided otherwise than planned while a coat is laid: a section left out, or the rest left for another day. */
const props = defineProps<{ here: DayAtJob; coat: RecordCoatDay; plan: RecordCoat; batch: number }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const picks = ['Rain is coming', 'One person is gone', 'The mix does not reach', 'The client wants it so']
const why = ref('')
/** Sections of which nothing is begun. */
const waiting = computed(() => props.coat.batches.filter((b) => b.state === 'waiting').map((b) => b.number))
const one = computed(() => (waiting.value.includes(props.batch) ? props.batch : waiting.value[0]))
const after = computed(() =>
  Math.max(0, ...props.coat.batches.filter((b) => b.meets ?? b.began).map((b) => b.number)),
)
const idOf = (number: number): string => props.plan.batches.find((b) => b.number === number)?.id ?? ''
async function leave(numbers: number[], forGood: boolean): Promise<void> {
  const reason = `${session.me?.name ?? ''}: ${why.value.trim()}`
  for (const n of numbers)
    if (!(await props.here.log('left-out', idOf(n), { reason, ...(forGood ? {} : { yes: false }) }))) return
  emit('done')
}
</script>

<template>
  <section class="change" aria-labelledby="change-title" data-test="change">
    <h2 id="change-title">Change of plan</h2>
    <p>Why? It is logged as a deviation, decided by {{ session.me?.name }}.</p>
    <div class="day-line">
      <button
        v-for="p in picks"
        :key="p"
        type="button"
        class="touch"
        :aria-pressed="why === p"
        @click="why = p"
      >
        {{ p }}
      </button>
      <TextField v-model="why" class="day-text" label="In own words" maxlength="200" />
    </div>
    <div class="day-line">
      <button
        v-if="one"
        type="button"
        class="touch warn"
        data-test="leave-out"
        :disabled="why.trim() === ''"
        @click="leave([one], true)"
      >
        Leave out section {{ one }}
      </button>
      <button
        v-if="after > 0 && waiting.length > 0"
        type="button"
        class="touch warn"
        data-test="stop-here"
        :disabled="why.trim() === ''"
        @click="leave(waiting, false)"
      >
        Stop after section {{ after }}:
        {{ waiting.length === 1 ? '1 section' : `${waiting.length} sections` }}
        another day
      </button>
      <button type="button" class="touch" @click="emit('done')">Go on as planned</button>
    </div>
    <p v-if="waiting.length > 1">To leave out another section, choose its batch below first.</p>
    <p v-if="waiting.length === 0">Every section is begun: there is nothing left to leave out.</p>
  </section>
</template>

<style scoped>
.change {
  display: grid;
  gap: 8px;
  padding: 12px 16px;
  background: var(--paper);
  border: 3px solid var(--warn);
  border-radius: 3px;
}
h2,
p {
  margin: 0;
}
h2 {
  font-size: 1.25rem;
}
</style>
