<script setup lang="ts">
import { computed } from 'vue'
import type { Schools } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useHouse } from '../house/store'
import PickField from '../../fields/PickField.vue'

/** Some of the contractor's schools, as this job keeps them. */
const props = defineProps<{ ids: (keyof Schools)[] }>()
const desk = useDesk()
const house = useHouse()
void house.load()
const asked = computed(() => house.schools.filter((s) => props.ids.includes(s.id as keyof Schools)))

function chosen(id: string, first: string): string {
  const own = desk.file.value.job.methods?.[id as keyof Schools]
  return typeof own === 'string' ? own : first
}
function choose(id: string, value: string, first: string): void {
  desk.editor.edit(`school ${id}`, (f) => {
    f.job.methods = { ...f.job.methods, [id]: value === first ? undefined : value }
  })
}
</script>

<template>
  <div class="triple">
    <PickField
      v-for="s in asked"
      :key="s.id"
      :label="s.title"
      :model-value="chosen(s.id, s.choices[0]?.value ?? '')"
      :options="Object.fromEntries(s.choices.map((c) => [c.value, c.name]))"
      @update:model-value="choose(s.id, $event, s.choices[0]?.value ?? '')"
    />
  </div>
</template>
