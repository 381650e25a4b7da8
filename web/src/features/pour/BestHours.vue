<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, type PourHour } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import FoldPanel from '../../fields/FoldPanel.vue'
import { dayTime } from '../../fields/clock'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'

/** What becomes of a coat at each hour of its shifts, and which is best. */
const props = defineProps<{ coat: string }>()
const desk = useDesk()
const session = useSession()
const { trouble, ask } = useRequest()
const hours = ref<PourHour[]>()
const wanted = ref(false)
const zone = computed(() => desk.plan.value.zone)
const best = computed(() => hours.value?.find((h) => h.best))
async function look(): Promise<void> {
  wanted.value = true
  const { coat } = props
  const { data } = await ask(
    api.POST('/api/jobs/{job}/pour/hours', { params: { path: { job: desk.jobId } }, body: { coat } }),
    'The hours of this coat cannot be worked out.',
  )
  if (data && coat === props.coat) hours.value = data
}
watch([(): string => props.coat, (): unknown => desk.plan.value], () => {
  if (wanted.value) void look()
})
const span = (seconds: number): string => session.format('span', Math.abs(seconds))
</script>

<template>
  <FoldPanel title="Best hour for this coat" data-test="best-hours" @opened="look">
    <p v-if="trouble" role="alert" class="small">{{ trouble }}</p>
    <p v-else-if="!hours" class="small quiet" role="status">Trying the hours …</p>
    <template v-else>
      <p data-test="best-hour">
        <template v-if="best"
          ><b>{{ dayTime(best.at, zone) }}</b
          ><template v-if="best.for.length > 0">: {{ best.for.join('; ') }}.</template></template
        >
        <template v-else>Something speaks against every hour of the next days.</template>
      </p>
      <div class="scroll" tabindex="0" role="region" aria-label="Hours of this coat">
        <table class="figures small">
          <thead>
            <tr>
              <th>First kit opened</th>
              <th class="num">Slab</th>
              <th class="num">Shortest pail</th>
              <th class="num">Time to spare</th>
              <th>Against it</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="h in hours"
              :key="h.at"
              :class="{ best: h.best, no: h.against.length > 0 || !h.makes }"
            >
              <td>{{ dayTime(h.at, zone) }}</td>
              <td class="num">{{ session.format('temperature', h.slab) }}{{ h.falls ? ' ↓' : '' }}</td>
              <td class="num">{{ h.life ? span(h.life) : '–' }}</td>
              <td class="num">
                {{ h.tight.slack < 0 ? `${span(h.tight.slack)} too late` : span(h.tight.slack) }}
              </td>
              <td>{{ h.against.join(' ') }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="small quiet">
        ↓ the slab cools while the coat is laid. A coat is moved to another hour on the roster.
      </p>
    </template>
  </FoldPanel>
</template>

<style scoped>
.scroll {
  max-height: 320px;
  overflow: auto;
}
.best td {
  font-weight: 700;
}
.no td {
  color: var(--quiet);
}
</style>
