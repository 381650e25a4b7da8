<script setup lang="ts">
import MoreMenu from '../../shell/MoreMenu.vue'
import { useSession } from '../../session/session'

/** What can be done with a job beside its steps: its papers, its record, its file. */
const props = defineProps<{ id: string; canRedo: boolean }>()
const emit = defineEmits<{ details: []; redo: []; keyboard: [] }>()
const session = useSession()
const places = [
  { title: 'Mix cards', to: `/jobs/${props.id}/cards` },
  { title: 'Measuring sheets', to: `/jobs/${props.id}/sheets` },
  { title: 'Job day', to: `/jobs/${props.id}/day` },
  { title: 'Record', to: `/jobs/${props.id}/record` },
]
</script>

<template>
  <MoreMenu label="More of this job" opener="job-menu">
    <v-list-item title="Job details" @click="emit('details')" />
    <v-list-item v-for="p in places" :key="p.to" :title="p.title" :to="p.to" />
    <v-list-item title="Export plan file" :href="`/api/jobs/${id}/file`" data-test="export" />
    <v-list-item v-if="session.mayEdit" title="Redo" :disabled="!canRedo" @click="emit('redo')" />
    <v-list-item title="Keyboard" @click="emit('keyboard')" />
  </MoreMenu>
</template>
