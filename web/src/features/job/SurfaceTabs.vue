<script setup lang="ts">
import { isTyping } from '../../fields/typing'
import TextField from '../../fields/TextField.vue'
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import type { Surface } from '../../api/client'
import { useDesk } from './useEditor'
import { blankSurface, copyOf, kindOf, type SurfaceKind } from './blank'
import { useSession } from '../../session/session'
import CopyDialog from './CopyDialog.vue'

/** Surfaces are added, renamed and removed where they are measured. */
defineProps<{ manage?: boolean }>()
const desk = useDesk()
const copying = ref(false)
const session = useSession()

function troubled(i: number): boolean {
  return desk.plan.value.findings.some((f) => f.level !== 'note' && f.path.startsWith(`/job/surfaces/${i}/`))
}
function area(id: string): string {
  const takeoff = desk.plan.value.surfaces.find((s) => s.id === id)?.takeoff
  return takeoff ? session.format('area', takeoff.area) : 'not measured'
}
const kinds: Record<SurfaceKind, string> = { floor: 'Floor', top: 'Countertop', pool: 'Pool' }
/** Whether nothing was entered yet, as in a new job. */
function untouched(s: Surface): boolean {
  return kindOf(s) === 'floor' && s.floor.outline.length === 0 && !s.given && s.coats.length === 0
}
function add(kind: SurfaceKind = 'floor'): void {
  desk.editor.edit('add surface', (f) => {
    const all = f.job.surfaces
    const first = all[0]
    // A new job begins with a blank floor; another kind takes its place.
    const lone = all.length === 1 && kind !== 'floor' && first && untouched(first)
    const number = lone ? 1 : all.length + 1
    const surface = blankSurface(`${kinds[kind]} ${number}`, kind)
    if (lone) all[0] = surface
    else all.push(surface)
  })
  desk.index.value = desk.file.value.job.surfaces.length - 1
}
useEventListener(window, 'keydown', (event) => {
  const typing = isTyping(event)
  if (!typing && !event.ctrlKey && !event.metaKey && event.key.toLowerCase() === 'n' && session.mayEdit) add()
})
function duplicate(): void {
  desk.editor.edit('duplicate surface', (f) => {
    const copy = copyOf(desk.surface.value)
    copy.name = `${copy.name}, copy`.slice(0, 120)
    f.job.surfaces.push(copy)
  })
  desk.index.value = desk.file.value.job.surfaces.length - 1
}
function remove(): void {
  const id = desk.surface.value.id
  desk.editor.edit('remove surface', (f) => (f.job.surfaces = f.job.surfaces.filter((s) => s.id !== id)))
  desk.index.value = Math.max(0, desk.index.value - 1)
}
function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim()
  if (name) desk.editSurface('name', (s) => (s.name = name))
}
</script>

<template>
  <div class="tabs">
    <v-tabs v-model="desk.index.value" class="choices" hide-slider aria-label="Surfaces">
      <v-tab v-for="(s, i) in desk.file.value.job.surfaces" :key="s.id" :value="i">
        <span class="title"
          >{{ s.name }}<span v-if="troubled(i)" v-tooltip="'Warnings here'" class="mind"> !</span></span
        >
        <span class="small quiet">{{ area(s.id) }}</span>
      </v-tab>
    </v-tabs>
    <div v-if="manage && session.mayEdit" class="row tools">
      <span class="small quiet">Add</span>
      <v-btn
        v-for="(words, kind) in kinds"
        :key="kind"
        size="small"
        :data-test="`add-${kind}`"
        :aria-label="`Add a ${words.toLowerCase()}`"
        @click="add(kind)"
        >{{ words }}</v-btn
      >
      <TextField
        :key="desk.surface.value.id"
        :model-value="desk.surface.value.name"
        label="Name of this surface"
        maxlength="120"
        @change="rename"
      />
      <v-btn variant="text" @click="duplicate">Duplicate</v-btn>
      <v-btn variant="text" data-test="copy-to" @click="copying = true">Copy to a job …</v-btn>
      <v-btn variant="text" :disabled="desk.file.value.job.surfaces.length < 2" @click="remove">Remove</v-btn>
    </div>
    <div id="surface-parts" />
    <CopyDialog v-if="manage" v-model="copying" :job-id="desk.jobId" :surface="desk.surface.value" />
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  justify-content: space-between;
  align-items: center;
  margin-bottom: 12px;
}
.tabs > * {
  min-width: 0;
  max-width: 100%;
}
.title {
  font-weight: 660;
}
.mind {
  color: var(--warn);
  font-weight: 800;
}
.tools .field {
  min-width: 220px;
}
</style>
