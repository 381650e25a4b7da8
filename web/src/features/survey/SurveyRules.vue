<script setup lang="ts">
import { dataOf, useRequest } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { api, type Rule } from '../../api/client'
import type { ReadKind } from '../../fields/useReader'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import FoldPanel from '../../fields/FoldPanel.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** The thresholds of the verdicts, which the contractor can set. */
const desk = useDesk()
const session = useSession()
const defaults = ref<Rule[]>([])
const rules = computed(() =>
  defaults.value.map((r) => {
    const own = desk.file.value.job.rules?.find((o) => o.id === r.id)
    return { ...r, value: own?.value ?? r.value, from: own ? 'your own rule' : r.from, own: !!own }
  }),
)
async function load(): Promise<void> {
  defaults.value = (await dataOf(api.GET('/api/rules'))) ?? []
}
void load()

function set(rule: Rule, value: number | undefined): void {
  desk.editor.edit(`rule ${rule.id}`, (f) => {
    const others = (f.job.rules ?? []).filter((o) => o.id !== rule.id)
    f.job.rules = value === undefined ? others : [...others, { id: rule.id, value, source: 'own-test' }]
    if (f.job.rules.length === 0) f.job.rules = undefined
  })
}

const CONFLICT = 409
const { trouble: kept, ask } = useRequest()
/** Every new job then starts from these thresholds. */
async function keep(): Promise<void> {
  const { data } = await ask(api.GET('/api/house'), 'The company standards cannot be read.')
  if (!data) return
  const { ok, status } = await ask(
    api.PUT('/api/house', {
      params: { query: { base: data.revision } },
      body: { ...data.house, rules: desk.file.value.job.rules },
    }),
    'Not saved.',
  )
  if (ok) kept.value = 'Saved as company defaults for new jobs.'
  else if (status === CONFLICT)
    kept.value = 'Not saved: somebody else changed the company standards just now. Try again.'
}
</script>

<template>
  <FoldPanel data-test="rules" title="Company limits">
    <div class="triple">
      <div v-for="r in rules" :key="r.id">
        <QuantityField
          :kind="r.kind as ReadKind"
          :label="r.name"
          :told="r.from"
          :model-value="r.value"
          :disabled="!session.mayEdit"
          @update:model-value="set(r, $event)"
        />
        <v-btn v-if="r.own && session.mayEdit" size="small" variant="text" @click="set(r, undefined)"
          >Reset to defaults</v-btn
        >
      </div>
    </div>
    <v-btn v-if="session.mayKeep && rules.some((r) => r.own)" size="small" class="mt-2" @click="keep"
      >Save as company defaults</v-btn
    >
    <span class="small ml-2" aria-live="polite">{{ kept }}</span>
  </FoldPanel>
</template>
