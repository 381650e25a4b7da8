<script setup lang="ts">
import { computed, ref } from 'vue'
import type { PlanFile, Product, Surface } from '../../api/client'
import { useSend } from './useSend'
import { useSession } from '../../session/session'
import PickField from '../../fields/PickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'

/** Sends what stands on the bench to a job: to the whole of it, or as a coat of one surface. */
const props = defineProps<{
  what: string
  sheet: Product
  coat?: (surface: Surface) => void
  whole?: (file: PlanFile) => void
}>()
const session = useSession()
const { jobs, job, told, trouble, list, open, send } = useSend()
const at = ref(0)
const surfaces = computed(() => job.value?.file.job.surfaces ?? [])

function choose(id: string): void {
  at.value = 0
  void open(id)
}
function put(): Promise<void> {
  return send((file) => {
    props.whole?.(file)
    const surface = file.job.surfaces[at.value]
    if (!props.coat || !surface) return
    props.coat(surface)
    if (!file.products.some((p) => p.id === props.sheet.id)) file.products.push(props.sheet)
  })
}
</script>

<template>
  <FoldPanel
    v-if="session.mayEdit"
    class="small"
    :data-test="`send-${what}`"
    title="Send to a job"
    @opened="list"
  >
    <div class="row mt-1">
      <PickField
        :label="`Job that gets the ${what}`"
        none="which job …"
        :model-value="job?.id"
        :options="Object.fromEntries(jobs.map((j) => [j.id, j.name]))"
        @update:model-value="choose"
      />
      <PickField
        v-if="coat && surfaces.length > 1"
        :label="`Surface that gets the ${what}`"
        :model-value="String(at)"
        :options="Object.fromEntries(surfaces.map((s, i) => [i, s.name]))"
        @update:model-value="at = Number($event)"
      />
      <v-btn size="small" :disabled="!job" @click="put">{{
        coat ? `Put the ${what} on top of ${surfaces[at]?.name ?? 'it'}` : `Send the ${what}`
      }}</v-btn>
      <span v-if="told" role="status"
        >{{ told }} <router-link :to="`/jobs/${job?.id}`">Open it</router-link></span
      >
      <span v-if="trouble" role="alert">{{ trouble }}</span>
    </div>
  </FoldPanel>
</template>
