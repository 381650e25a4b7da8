<script setup lang="ts">
import { applyPatch, type Operation } from 'fast-json-patch'
import { computed, ref, watch } from 'vue'
import { api, type OwnFigure } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'

/** Plans the coats by their sheets, by own floors, or by the more careful of both. */
const open = defineModel<boolean>({ required: true })
const desk = useDesk()
const session = useSession()
const { trouble, busy, ask } = useRequest()
const found = ref<OwnFigure[]>()
type By = OwnFigure['careful']
const by = ref<By>('careful')
const words: Record<By, string> = {
  sheet: 'Data sheet and crew default',
  floors: 'Own floors',
  careful: 'The more careful of both',
}
watch(open, async (is) => {
  if (!is) return
  found.value = undefined
  const { data } = await ask(
    api.GET('/api/jobs/{job}/own-figures', { params: { path: { job: desk.jobId } } }),
    'The figures of own floors cannot be read.',
  )
  found.value = data
})
/** Which of both a figure is planned by then. */
const chosen = (f: OwnFigure): By => (by.value === 'careful' ? f.careful : by.value)
const value = (f: OwnFigure): number => (chosen(f) === 'floors' ? f.floors : (f.sheet ?? f.now))
const steps = computed(() =>
  (found.value ?? []).flatMap((f) => (chosen(f) === 'floors' ? f.toOwn : f.toSheet)),
)
const same = (f: OwnFigure): boolean => session.format(f.kind, value(f)) === session.format(f.kind, f.now)
function use(): void {
  desk.editor.edit(`figures: ${words[by.value]}`, (f) => applyPatch(f, steps.value as Operation[]))
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="900" aria-label="Figures to plan by">
    <div class="sheet pa-5" data-test="own-figures">
      <h2 class="mb-2">Figures to plan by</h2>
      <p v-if="trouble" role="alert">{{ trouble }}</p>
      <v-progress-linear v-else-if="busy" indeterminate aria-label="Reading own floors" />
      <template v-else-if="found && found.length === 0">
        <p>
          No coat of this job has figures of own floors yet: three jobs of a product, laid in the same way,
          are needed, with their sections or weights on record.
        </p>
      </template>
      <template v-else-if="found">
        <v-radio-group v-model="by" inline hide-details>
          <v-radio v-for="(text, key) in words" :key="key" :label="text" :value="key" />
        </v-radio-group>
        <div class="scroll" tabindex="0" role="region" aria-label="Figures">
          <table class="figures">
            <thead>
              <tr>
                <th>Coat</th>
                <th>Figure</th>
                <th class="num">Now</th>
                <th class="num">Data sheet or default</th>
                <th class="num">Own floors</th>
                <th class="num">Then</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="f in found" :key="f.coat + f.name">
                <td>{{ f.coat }}</td>
                <td>{{ f.name }}</td>
                <td class="num">{{ session.format(f.kind, f.now) }}</td>
                <td class="num">
                  {{ f.sheet === undefined ? 'not stated' : session.format(f.kind, f.sheet) }}
                </td>
                <td class="num">
                  {{ session.format(f.kind, f.floors) }} <span class="small">{{ f.jobs }} jobs</span>
                </td>
                <td class="num">
                  <b>{{ session.format(f.kind, value(f)) }}</b>
                  <span class="small"
                    >&nbsp;{{ same(f) ? 'as now' : chosen(f) === 'floors' ? 'own floors' : 'sheet' }}</span
                  >
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
      <div class="row mt-4">
        <v-btn
          v-if="found?.length"
          variant="flat"
          color="primary"
          data-test="use-figures"
          :disabled="found.every(same)"
          @click="use"
          >Plan by these</v-btn
        >
        <v-btn variant="text" @click="open = false">Close</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
</style>
