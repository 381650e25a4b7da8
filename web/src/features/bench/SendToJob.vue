<script setup lang="ts">
import { computed, ref } from 'vue'
import type { PlanFile, Product, Surface } from '../../api/client'
import { useSend } from './useSend'
import { useSession } from '../../session/session'

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

function choose(event: Event): void {
  at.value = 0
  void open((event.target as HTMLSelectElement).value)
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
  <details v-if="session.mayEdit" class="small" :data-test="`send-${what}`" @toggle="list">
    <summary>Send to a job</summary>
    <div class="row mt-1">
      <select
        class="control"
        :aria-label="`Job that gets the ${what}`"
        :value="job?.id ?? ''"
        @change="choose"
      >
        <option value="">which job …</option>
        <option v-for="j in jobs" :key="j.id" :value="j.id">{{ j.name }}</option>
      </select>
      <select
        v-if="coat && surfaces.length > 1"
        v-model="at"
        class="control"
        :aria-label="`Surface that gets the ${what}`"
      >
        <option v-for="(s, i) in surfaces" :key="s.id" :value="i">{{ s.name }}</option>
      </select>
      <v-btn size="small" :disabled="!job" @click="put">{{
        coat ? `Put the ${what} on top of ${surfaces[at]?.name ?? 'it'}` : `Send the ${what}`
      }}</v-btn>
      <span v-if="told" role="status"
        >{{ told }} <router-link :to="`/jobs/${job?.id}`">Open it</router-link></span
      >
      <span v-if="trouble" role="alert">{{ trouble }}</span>
    </div>
  </details>
</template>
