<script setup lang="ts">
import { until, useElementSize } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useSession } from '../../session/session'
import { useShownPath } from '../../shell/useShownPath'
import TextField from '../../fields/TextField.vue'
import ConflictDialog from './ConflictDialog.vue'
import HelpDialog from './HelpDialog.vue'
import JobDesk from './JobDesk.vue'
import { kindOf } from './blank'
import JobLine from './JobLine.vue'
import JobMenu from './JobMenu.vue'
import JobStrip from './JobStrip.vue'
import SaveMark from './SaveMark.vue'
import { decisions, stepPath, steps, surfaceOf } from './steps'
import { useJob } from './useJob'
import { useJobKeys } from './useJobKeys'

const props = defineProps<{ id: string }>()
const router = useRouter()
const route = useRoute()
const session = useSession()
const editor = useJob(props.id)
const { file, plan, before, state, trouble, stale, missing, unopened, kept, canUndo, canRedo } = editor
const pageShown = useShownPath()
const help = ref(false)
const desk = ref<InstanceType<typeof JobDesk> | null>(null)
const top = ref<HTMLElement | null>(null)
const { height } = useElementSize(top, undefined, { box: 'border-box' })
const away = computed(() => state.value === 'away')
const unkept = computed(() => !kept.value && state.value !== 'saved')

function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim()
  if (name) editor.edit('job name', (f) => (f.job.name = name))
}

/** Turns to a step, by its place from the one on screen. */
function turn(by: number): void {
  const now = steps.findIndex((s) => route.path === stepPath(props.id, s.id))
  const next = steps[now + by]
  if (next) void router.push(stepPath(props.id, next.id))
}

let asked = -1
/** Turns to the next thing that needs a decision, round and round. */
async function decide(): Promise<void> {
  const all = decisions(plan.value?.findings ?? [])
  if (all.length === 0) return
  asked = (asked + 1) % all.length
  const next = all[asked]
  if (!next) return
  const surface = surfaceOf(next)
  if (surface !== undefined) desk.value?.turnTo(surface)
  await router.push(stepPath(props.id, next.step))
  await until(pageShown).toBe(route.path, { timeout: 3000 })
  await nextTick()
  const shown = [...document.querySelectorAll<HTMLElement>('[data-finding]')]
  const found = shown.find((e) => e.dataset.finding === next.path + next.text)
  found?.scrollIntoView({ block: 'center' })
  found?.focus()
}

useJobKeys({
  undo: editor.undo,
  redo: editor.redo,
  help: () => (help.value = true),
  cards: () => void router.push(`/jobs/${props.id}/cards`),
  step: (n) => {
    const wanted = steps[n - 1]
    if (wanted) void router.push(stepPath(props.id, wanted.id))
  },
  turn,
  decide: () => void decide(),
})
</script>

<template>
  <div v-if="missing" class="page">
    <h1>This job does not exist in your company</h1>
    <p class="my-4">The link may belong to another company.</p>
    <v-btn to="/jobs">Go to the jobs</v-btn>
  </div>
  <div v-else-if="file && plan" :style="{ '--top': `${height}px` }">
    <h1 class="d-sr-only">{{ file.job.name }}: {{ route.meta.title }}</h1>
    <div ref="top" class="top">
      <div class="title">
        <TextField
          class="name"
          :model-value="file.job.name"
          aria-label="Name of the job"
          maxlength="160"
          :readonly="!session.mayEdit"
          @change="rename"
        />
        <button v-tooltip="'Job details'" type="button" class="plain client" @click="desk?.openDetails()">
          {{ [file.job.client, file.job.site].filter(Boolean).join(' · ') || 'Client, site, hours …' }}
        </button>
        <SaveMark :state="state" />
        <template v-if="session.mayEdit">
          <v-btn size="small" :disabled="!canUndo" data-test="undo" @click="editor.undo">Undo</v-btn>
          <v-btn size="small" class="wide" :disabled="!canRedo" data-test="redo" @click="editor.redo"
            >Redo</v-btn
          >
        </template>
        <JobMenu
          :id="id"
          :can-redo="canRedo"
          @details="desk?.openDetails()"
          @redo="editor.redo"
          @keyboard="help = true"
        />
      </div>
      <JobStrip :steps="plan.steps" :job-id="id" :next="plan.line.next" :zone="plan.zone" />
      <JobLine
        :line="plan.line"
        :before="before"
        :currency="file.job.currency"
        :zone="plan.zone"
        :job-id="id"
        :tops="file.job.surfaces.every((s) => kindOf(s) === 'top')"
        :class="{ old: away }"
      />
      <v-alert v-if="away" type="warning" class="banner" role="alert">
        The server cannot be reached. What you change is
        {{ kept ? 'kept on this device' : 'kept in this page' }} and sent when it is back; the figures are the
        last it gave.
      </v-alert>
      <v-alert v-else-if="state === 'refused'" type="error" class="banner" role="alert">
        {{ trouble }} Your edit is kept here.
        <template #append><v-btn size="small" @click="editor.undo">Undo it</v-btn></template>
      </v-alert>
      <v-alert v-else-if="state === 'signed-out'" type="warning" class="banner" role="alert">
        You were signed out. Your edits are kept on this device.
        <template #append
          ><v-btn size="small" :to="{ path: '/sign-in', query: { next: route.fullPath } }"
            >Sign in again</v-btn
          ></template
        >
      </v-alert>
      <v-alert v-if="unkept" type="warning" class="banner" role="alert" data-test="unkept">
        This device has no room left to keep unsent edits. Leave this page open until they are saved.
      </v-alert>
      <v-alert v-if="!session.mayEdit" class="banner">
        You can view this job; a lead or estimator can edit it.
      </v-alert>
    </div>
    <JobDesk ref="desk" :editor="editor" :file="file" :plan="plan" :job-id="id" :class="{ old: away }" />
    <ConflictDialog v-if="stale" :stale="stale" @settle="editor.settle" />
    <HelpDialog v-model="help" />
  </div>
  <div v-else-if="unopened" class="page">
    <h1>This job cannot be opened</h1>
    <p class="my-4" role="alert">{{ unopened }}</p>
    <v-btn to="/jobs">Go to the jobs</v-btn>
  </div>
  <div v-else class="page">
    <p v-if="away" class="quiet">The server does not answer; trying again …</p>
    <v-skeleton-loader v-else type="heading, paragraph, image" />
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
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 5px 24px;
}
.name {
  flex: 1 1 200px;
  max-width: 440px;
}
.name :deep(.v-field__input) {
  font-size: 1.2rem;
  font-weight: 700;
  background: none;
  border-color: transparent;
  min-height: 36px;
  padding: 0 4px;
}
.name :deep(.v-field__input:hover:not([readonly])) {
  border-bottom-color: var(--quiet);
}
.client {
  flex: 1 1 120px;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: var(--quiet);
}
.client:hover {
  text-decoration: underline;
}
.banner {
  border-radius: 0;
  padding: 6px 24px;
  font-weight: 600;
}
.old :deep(.figure),
.old :deep(.value),
.old :deep(.open-figure) {
  opacity: 0.55;
}
@media (pointer: coarse) {
  .name :deep(.v-field__input) {
    min-height: 44px;
  }
}
@media (max-width: 900px) {
  .top {
    position: static;
  }
  .title {
    padding: 4px 12px;
  }
  .client,
  .wide {
    display: none;
  }
}
</style>
