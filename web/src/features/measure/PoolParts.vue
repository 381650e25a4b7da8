<script setup lang="ts">
import { computed } from 'vue'
import type { PoolPart } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { newId } from '../job/blank'
import { useSession } from '../../session/session'
import PickField from '../../fields/PickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import EntryHead from '../shelf/EntryHead.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'

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

function add(chosen: string): void {
  const kind = chosen as PoolPart['kind']
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
function fields(p: PoolPart): (Field | false | undefined)[] {
  const length = (label: string, field: keyof typeof lengths | 'depth'): Field => ({
    as: 'quantity',
    kind: 'length',
    label,
    value: p[field] ?? 0,
    positive: true,
    take: (v) => change(p.id, field, (part) => (part[field] = v)),
  })
  return [
    p.kind === 'steps' && {
      as: 'number',
      label: 'Treads',
      value: p.count ?? 1,
      whole: true,
      least: 1,
      take: (n) => change(p.id, 'count', (part) => (part.count = n)),
    },
    ...Object.entries(lengths).map(([field, words]) => length(words, field as keyof typeof lengths)),
    !p.outside && {
      as: 'pick',
      label: 'Ends against a wall',
      value: String(p.walled ?? 0),
      options: { 0: 'none', 1: 'one', 2: 'both' },
      take: (n) => change(p.id, 'walled', (part) => (part.walled = Number(n))),
    },
    p.kind === 'steps' && {
      as: 'tick',
      label: 'set into the wall',
      value: p.outside,
      take: (on) => change(p.id, 'outside', (part) => (part.outside = on || undefined)),
    },
    p.outside && length('Depth in front of it', 'depth'),
  ]
}
</script>

<template>
  <FoldPanel data-test="pool-parts">
    <template #title
      >Steps, benches, swim-outs<span v-if="parts.length" class="told"
        >: {{ parts.map((p) => p.name).join(', ') }}</span
      ></template
    >
    <PickField
      v-if="session.mayEdit"
      label="Add steps, a bench or a swim-out"
      none="choose …"
      :options="Object.fromEntries(Object.entries(kinds).map(([kind, k]) => [kind, k.words]))"
      @update:model-value="add"
    />
    <ul class="entries">
      <li v-for="p in parts" :key="p.id">
        <EntryHead
          :label="kinds[p.kind].words"
          :name="p.name"
          @rename="(n) => change(p.id, 'name', (part) => (part.name = n))"
          @remove="remove(p.id)"
        />
        <FieldGrid :fields="fields(p)" :columns="3" />
      </li>
    </ul>
  </FoldPanel>
</template>
