<script setup lang="ts">
import { computed, ref } from 'vue'
import type { RecordCoat } from '../../api/client'
import { minuteTime } from '../../fields/clock'
import { useSession } from '../../session/session'
import type { DayAtJob } from './useDay'
import PickField from '../../fields/PickField.vue'

/** Who works at which task, from when until when: one's own. */
const props = defineProps<{ here: DayAtJob; plan: RecordCoat }>()
const session = useSession()
const tasks = computed(() => (props.here.issue.value?.tasks ?? []).filter((t) => t.split !== 'passing'))
const chosen = ref(`coat/${props.plan.id}/pour`)
const mine = computed(() => props.here.day.value?.hours.find((h) => h.id === session.me?.id && !h.to))
const nameOf = (id: string): string => tasks.value.find((t) => t.id === id)?.name ?? 'this job'
</script>

<template>
  <div class="day-line">
    <PickField
      v-if="!mine"
      v-model="chosen"
      class="day-text"
      label="Task"
      open
      :options="Object.fromEntries(tasks.map((t) => [t.id, t.name]))"
    />
    <p v-else>
      You are working on “{{ nameOf(mine.task) }}” since {{ minuteTime(mine.from, here.zone.value) }}.
    </p>
    <button v-if="!mine" type="button" class="touch main" @click="here.log('began', chosen)">
      Start work
    </button>
    <button v-else type="button" class="touch main" @click="here.log('ended', mine.task)">End work</button>
  </div>
</template>
