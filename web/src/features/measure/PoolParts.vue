<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import { computed } from 'vue'
import type { PoolPart } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { newId } from '../job/blank'
import { useSession } from '../people/session'
import EntryHead from '../shelf/EntryHead.vue'
import PickField from '../../fields/PickField.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** Steps, benches and swim-outs of a shell. */
const desk = useDesk()
const session = useSession()
const parts = computed(() => desk.surface.value.pool?.parts ?? [])
const kinds: Record<PoolPart['kind'], { words: string; start: Partial<PoolPart> }> = {
  steps: { words: 'Steps', start: { count: 3, width: 1.2, tread: 0.3, riser: 0.28 } },
  bench: { words: 'Bench', start: { width: 2, tread: 0.45, riser: 0.5 } },
  'swim-out': { words: 'Swim-out', start: { width: 0.9, tread: 0.5, riser: 0.9 } },
}
const lengths = { width: 'Along the wall', tread: 'Tread or seat', riser: 'Riser' } as const

function add(event: Event): void {
  const select = event.target as HTMLSelectElement
  const kind = select.value as PoolPart['kind']
  select.value = ''
  desk.editSurface('add part', (s) => {
    if (!s.pool || !(kind in kinds)) return
    const { words, start } = kinds[kind]
    s.pool.parts = [...(s.pool.parts ?? []), { id: newId(), name: words, kind, ...start }]
  })
}
function change(id: string, field: string, by: (part: PoolPart) => void): void {
  desk.editSurface(`${id} ${field}`, (s) => {
    const part = s.pool?.parts?.find((p) => p.id === id)
    if (part) by(part)
  })
}
function remove(id: string): void {
  desk.editSurface('remove part', (s) => s.pool && (s.pool.parts = s.pool.parts?.filter((p) => p.id !== id)))
}
function whole(event: Event): number {
  return Math.max(1, Math.round(Number((event.target as HTMLInputElement).value) || 1))
}
</script>

<template>
  <details :open="parts.length > 0" data-test="pool-parts">
    <summary>Steps, benches, swim-outs</summary>
    <label v-if="session.mayEdit" class="small">
      Add
      <select class="control" aria-label="Add steps, a bench or a swim-out" @change="add">
        <option value="">choose …</option>
        <option v-for="(k, kind) in kinds" :key="kind" :value="kind">{{ k.words }}</option>
      </select>
    </label>
    <ul class="entries">
      <li v-for="p in parts" :key="p.id">
        <EntryHead
          :label="kinds[p.kind].words"
          :name="p.name"
          @rename="(n) => change(p.id, 'name', (part) => (part.name = n))"
          @remove="remove(p.id)"
        />
        <div class="triple">
          <TextField
            v-if="p.kind === 'steps'"
            type="number"
            min="1"
            label="Treads"
            :model-value="p.count ?? 1"
            :disabled="!session.mayEdit"
            @change="(e: Event) => change(p.id, 'count', (part) => (part.count = whole(e)))"
          />
          <QuantityField
            v-for="(words, field) in lengths"
            :key="field"
            kind="length"
            :label="words"
            :model-value="p[field] ?? 0"
            :disabled="!session.mayEdit"
            positive
            @update:model-value="change(p.id, field, (part) => (part[field] = $event))"
          />
          <PickField
            v-if="!p.outside"
            label="Ends against a wall"
            :options="{ 0: 'none', 1: 'one', 2: 'both' }"
            :model-value="String(p.walled ?? 0)"
            @update:model-value="(n) => change(p.id, 'walled', (part) => (part.walled = Number(n)))"
          />
          <label v-if="p.kind === 'steps'" class="small">
            <input
              type="checkbox"
              :checked="p.outside"
              :disabled="!session.mayEdit"
              @change="change(p.id, 'outside', (part) => (part.outside = part.outside ? undefined : true))"
            />
            set into the wall
          </label>
          <QuantityField
            v-if="p.outside"
            kind="length"
            label="Depth in front of it"
            :model-value="p.depth ?? 0"
            :disabled="!session.mayEdit"
            positive
            @update:model-value="change(p.id, 'depth', (part) => (part.depth = $event))"
          />
        </div>
      </li>
    </ul>
  </details>
</template>
