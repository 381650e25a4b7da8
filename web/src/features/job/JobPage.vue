<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import ConflictDialog from './ConflictDialog.vue'
import HelpDialog from './HelpDialog.vue'
import JobDesk from './JobDesk.vue'
import JobStrip from './JobStrip.vue'
import SaveMark from './SaveMark.vue'
import { useJob } from './useJob'
import { useSession } from '../people/session'

const props = defineProps<{ id: string }>()
const router = useRouter()
const session = useSession()
const editor = useJob(props.id)
const { file, plan, state, trouble, stale, missing, canUndo, canRedo } = editor
const help = ref(false)
const desk = ref<InstanceType<typeof JobDesk> | null>(null)
const away = computed(() => state.value === 'away')

function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim()
  if (name) editor.edit('job name', (f) => (f.job.name = name))
}

const steps = ['measure', 'survey', 'build-up', 'kits', 'batches', 'sections']
useEventListener(window, 'keydown', (event) => {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
    event.preventDefault()
    if (event.shiftKey) editor.redo()
    else editor.undo()
    return
  }
  const typing = (event.target as HTMLElement).closest('input, select, textarea, [role="dialog"]')
  if (typing || event.ctrlKey || event.metaKey || event.altKey) return
  const step = steps[Number(event.key) - 1]
  if (event.key === '?') help.value = true
  else if (event.key.toLowerCase() === 'p') void router.push(`/jobs/${props.id}/cards`)
  else if (event.key.toLowerCase() === 'n' && session.mayEdit) desk.value?.addSurface()
  else if (step) document.getElementById(step)?.scrollIntoView()
})
</script>

<template>
  <div v-if="missing" class="page">
    <h1>There is no such job in your company</h1>
    <p class="my-4">It may have been opened from another company's link.</p>
    <v-btn to="/jobs">To the jobs</v-btn>
  </div>
  <template v-else-if="file && plan">
    <div class="top">
      <div class="title row">
        <input
          class="name"
          :value="file.job.name"
          aria-label="Name of the job"
          maxlength="160"
          :readonly="!session.mayEdit"
          @change="rename"
        />
        <button
          type="button"
          class="plain client"
          title="Client, site and notes"
          @click="desk?.openDetails()"
        >
          {{ [file.job.client, file.job.site].filter(Boolean).join(' · ') || 'Client, site and notes …' }}
        </button>
        <SaveMark :state="state" />
        <template v-if="session.mayEdit">
          <v-btn size="small" :disabled="!canUndo" data-test="undo" @click="editor.undo">Undo</v-btn>
          <v-btn size="small" :disabled="!canRedo" data-test="redo" @click="editor.redo">Redo</v-btn>
        </template>
        <v-btn size="small" :href="`/api/jobs/${id}/file`" data-test="export">Plan file</v-btn>
        <v-btn size="small" variant="text" aria-label="Keyboard" @click="help = true">?</v-btn>
      </div>
      <JobStrip :steps="plan.steps" />
      <p v-if="away" class="banner" role="alert">
        The server cannot be reached. What you change is kept on this device and sent when it is back; the
        figures below are the last it gave.
      </p>
      <p v-else-if="state === 'refused'" class="banner" role="alert">
        {{ trouble }} Your edit is kept here.
        <v-btn size="small" @click="editor.undo">Undo it</v-btn>
      </p>
      <p v-else-if="state === 'signed-out'" class="banner" role="alert">
        You were signed out. Your edits are kept on this device.
        <v-btn size="small" :to="{ path: '/sign-in', query: { next: `/jobs/${id}` } }">Sign in again</v-btn>
      </p>
      <p v-if="!session.mayEdit" class="banner quiet">
        As a hand you can read this job; a lead or estimator changes it.
      </p>
    </div>
    <JobDesk ref="desk" :editor="editor" :file="file" :plan="plan" :job-id="id" :class="{ old: away }" />
    <ConflictDialog v-if="stale" :stale="stale" @settle="editor.settle" />
    <HelpDialog v-model="help" />
  </template>
  <div v-else class="page quiet">
    {{ away ? 'The server does not answer; trying again …' : 'Opening the job …' }}
  </div>
</template>

<style scoped>
.top {
  position: sticky;
  top: 0;
  z-index: 20;
  background: var(--paper);
  border-bottom: 1px solid var(--line);
}
.title {
  padding: 6px 24px 4px;
}
.name {
  flex: 1 1 240px;
  max-width: 440px;
  font: inherit;
  font-size: 1.24rem;
  font-weight: 700;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 1px solid transparent;
  padding: 4px 0;
}
.name:hover:not([readonly]) {
  border-bottom-color: var(--quiet);
}

.client {
  flex: 1 1 120px;
  color: var(--quiet);
}
.client:hover {
  text-decoration: underline;
}
.banner {
  margin: 0;
  padding: 8px 24px;
  border-top: 1px solid var(--line);
  font-weight: 620;
}
.old :deep(.figure),
.old :deep(.open-figure) {
  opacity: 0.55;
}
@media (max-width: 700px) {
  .title {
    padding: 4px 12px;
  }
  .client {
    display: none;
  }
}
</style>
