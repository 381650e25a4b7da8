<script setup lang="ts">
import type { House, RecordOpinion } from '../../api/client'
import TextField from '../../fields/TextField.vue'

/** How much a cause and its signs count: common practice until a house has its own. */
const props = defineProps<{
  symptom: string
  cause: RecordOpinion['ranked'][number]
  own: NonNullable<House['causes']>
}>()
const emit = defineEmits<{ change: [own: NonNullable<House['causes']>] }>()
const HIGHEST = 10
function set(fact: string | undefined, event: Event): void {
  const value = Number((event.target as HTMLInputElement).value)
  const others = props.own.filter(
    (o) => o.symptom !== props.symptom || o.cause !== props.cause.key || (o.fact ?? '') !== (fact ?? ''),
  )
  if (!Number.isFinite(value) || Math.abs(value) > HIGHEST) return
  emit('change', [...others, { symptom: props.symptom, cause: props.cause.key, fact, value }])
}
const words = (fact: string): string => fact.replaceAll('-', ' ')
</script>

<template>
  <div class="weights">
    <TextField
      type="number"
      step="0.1"
      :min="-HIGHEST"
      :max="HIGHEST"
      :label="`Prior weight${cause.own ? ' (own)' : ''}`"
      :model-value="cause.prior"
      @change="set(undefined, $event)"
    />
    <TextField
      v-for="s in cause.shows ?? []"
      :key="s.fact"
      type="number"
      step="0.1"
      :min="-HIGHEST"
      :max="HIGHEST"
      :label="`Evidence: ${words(s.fact)}${s.own ? ' (own)' : ''}`"
      :model-value="s.weight"
      @change="set(s.fact, $event)"
    />
  </div>
</template>

<style scoped>
.weights {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
