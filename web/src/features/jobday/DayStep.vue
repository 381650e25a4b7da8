<script setup lang="ts">
import { computed, ref } from 'vue'
import type { RecordStep } from '../../api/client'
import TextField from '../../fields/TextField.vue'
import { minuteTime } from '../../fields/clock'
import { useSession } from '../../session/session'
import DayField from './DayField.vue'
import { keepPhoto } from '../../record/photos'
import type { DayAtJob } from './useDay'

/** A task of preparation or a test at hand: how it is done, with what, what hurts, and what closes it. */
const props = defineProps<{ here: DayAtJob; step: RecordStep }>()
const session = useSession()
const issue = computed(() => props.here.issue.value)
const task = computed(() => issue.value?.tasks.find((t) => t.id === props.step.task))
const guide = computed(() => issue.value?.guides?.find((g) => g.task === props.step.task))
const mine = computed(() =>
  props.here.day.value?.hours.some((h) => h.id === session.me?.id && !h.to && h.task === props.step.task),
)
const check = computed(() => (props.step.test ? '' : (task.value?.closes ?? '')))
const materials = computed(() =>
  (task.value?.needs.materials ?? []).map((m) => `${session.format(m.kind, m.value)} ${m.name}`),
)
/** What is told in own words: that it is done, or that a test failed. */
const telling = ref<'' | 'done' | 'failed'>('')
const seen = ref('')
const said = ref('')

/** The reading of a test, and how it is judged. */
const asks = computed(() => guide.value?.asks)
const value = ref<number>()
const judged = computed(() =>
  value.value === undefined || Number.isNaN(value.value)
    ? undefined
    : props.here.judge(props.step.task, value.value),
)

async function close(saw: string, passed = true, read?: number): Promise<void> {
  if (saw === '') return
  const body = { saw, ...(passed ? {} : { yes: false }), ...(read === undefined ? {} : { value: read }) }
  if (!(await props.here.log('completed', props.step.task, body))) return
  if (mine.value) await props.here.log('ended', props.step.task)
  telling.value = ''
  seen.value = ''
  value.value = undefined
}
async function photo(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file || !session.me) return
  try {
    const id = await keepPhoto(session.me.id, issue.value?.job ?? '', props.step.surface, file)
    if (await props.here.log('photo', props.step.task, { photo: id }))
      said.value = 'Kept; it is sent when there is a network.'
  } catch (error) {
    said.value = error instanceof Error ? error.message : String(error)
  }
}
</script>

<template>
  <article class="step" :data-step="step.task">
    <h3>{{ step.place }}: {{ step.name }}</h3>
    <p v-if="step.again" role="alert" class="again">Once more: {{ step.again }}.</p>
    <p v-if="step.until" class="by">No later than {{ minuteTime(step.until, here.zone.value) }}.</p>
    <p v-for="c in guide?.cautions ?? []" :key="c" class="caution">{{ c }}</p>
    <p v-if="guide?.how" class="how">{{ guide.how }}</p>
    <p v-if="guide?.bucket" class="how bucket">{{ guide.bucket }}</p>
    <p v-if="step.test && task?.closes">The survey: {{ task.closes }}</p>
    <p v-if="materials.length">In all: {{ materials.join(', ') }}.</p>
    <p v-if="step.who?.length" role="status">At it: {{ step.who.join(', ') }}</p>
    <div v-if="asks" class="day-line" data-test="asks">
      <DayField
        v-model="value"
        :kind="asks.kind"
        :label="`Worst reading: ${asks.what}`"
        :read="here.read.value"
      />
      <p v-if="judged" role="status" class="verdict" :class="{ fails: !judged.fits }" data-test="verdict">
        <b>{{ judged.fits ? 'It passes' : 'It fails' }}.</b> {{ judged.text }}
      </p>
      <button
        v-if="judged"
        type="button"
        class="touch"
        :class="judged.fits ? 'main' : 'warn'"
        data-act="reads"
        @click="close(judged.text, judged.fits, value)"
      >
        Log: {{ judged.fits ? 'it passes' : 'it fails' }}
      </button>
    </div>
    <div class="acts">
      <button v-if="!mine" type="button" class="touch" @click="here.log('began', step.task)">Start</button>
      <button
        v-if="step.test && !asks"
        type="button"
        class="touch main"
        data-act="passes"
        @click="close('It passes')"
      >
        It passes
      </button>
      <button
        v-if="step.test && !asks"
        type="button"
        class="touch warn"
        data-act="fails"
        :aria-expanded="telling === 'failed'"
        @click="telling = 'failed'"
      >
        It fails
      </button>
      <button
        v-if="!step.test"
        type="button"
        class="touch main"
        data-act="closes"
        @click="close(check || 'Done')"
      >
        Done{{ check ? `: ${check}` : '' }}
      </button>
      <button type="button" class="touch" :aria-expanded="telling === 'done'" @click="telling = 'done'">
        Other words
      </button>
      <label class="touch"
        >Photo<input type="file" accept="image/*" capture="environment" hidden @change="photo"
      /></label>
    </div>
    <form v-if="telling" class="day-line" @submit.prevent="close(seen.trim(), telling === 'done')">
      <TextField v-model="seen" class="day-text" label="What was seen or read" maxlength="300" required />
      <button type="submit" class="touch" :class="telling === 'failed' ? 'warn' : 'main'">
        {{ telling === 'failed' ? 'It fails' : 'Done' }}
      </button>
      <button type="button" class="touch" @click="telling = ''">Cancel</button>
    </form>
    <p v-if="said" role="status">{{ said }}</p>
  </article>
</template>

<style scoped>
.step {
  display: grid;
  gap: 8px;
  padding: 12px 16px;
  background: var(--paper);
  border: 2px solid var(--ink);
  border-radius: 3px;
}
h3,
p {
  margin: 0;
}
h3 {
  font-size: 1.5rem;
  line-height: 1.15;
}
.how {
  font-size: 1.2rem;
}
.bucket,
.by,
.again {
  font-weight: 680;
}
.again {
  padding-left: 10px;
  border-left: 6px solid var(--stop);
}
.caution {
  padding-left: 10px;
  border-left: 6px solid var(--warn);
  font-weight: 640;
}
.verdict {
  flex: 1;
  min-width: 220px;
  padding-left: 10px;
  border-left: 6px solid var(--good);
  font-size: 1.2rem;
}
.verdict.fails {
  border-color: var(--stop);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: start;
  gap: 10px;
}
.acts .main {
  flex: 1;
  min-width: 220px;
}
</style>
