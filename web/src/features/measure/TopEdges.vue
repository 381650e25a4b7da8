<script setup lang="ts">
import { computed } from 'vue'
import type { Top } from '../../api/client'
import { useDesk } from '../job/useEditor'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'

/** What all edges of a top have in common. */
const desk = useDesk()
const top = computed<Top>(() => desk.surface.value.top ?? { pieces: [] })
const profiles: Record<NonNullable<Top['profile']>, string> = {
  square: 'Square',
  chamfer: 'Chamfered',
  rounded: 'Upper arris rounded',
  bullnose: 'Half round',
}
const USUAL = { runOff: 0.02, strip: 0.1 }
const cut = computed(() => top.value.profile === 'chamfer' || top.value.profile === 'rounded')

function set(label: string, change: (top: Top) => void): void {
  desk.editSurface(label, (s) => s.top && change(s.top))
}
const fields = computed<(Field | false)[]>(() => {
  const t = top.value
  return [
    {
      as: 'quantity',
      kind: 'length',
      label: 'Thickness of the edge',
      value: t.thickness,
      positive: true,
      take: (v) => set('thickness', (top) => (top.thickness = v)),
    },
    {
      as: 'pick',
      label: 'Edge profile',
      options: profiles,
      value: t.profile ?? 'square',
      take: (v) => set('profile', (top) => (top.profile = v as Top['profile'])),
    },
    cut.value && {
      as: 'quantity',
      kind: 'length',
      label: t.profile === 'chamfer' ? 'Chamfer' : 'Radius',
      value: t.arris ?? 0,
      take: (v) => set('arris', (top) => (top.arris = v)),
    },
    {
      as: 'quantity',
      kind: 'length',
      label: 'Run-off over edges',
      told: t.runOff ? undefined : 'rule of thumb',
      value: t.runOff?.value ?? USUAL.runOff,
      take: (v) => set('run-off', (top) => (top.runOff = { value: v, source: 'own-test' })),
    },
    {
      as: 'quantity',
      kind: 'length',
      label: 'Narrow strip limit',
      value: t.strip?.value ?? USUAL.strip,
      take: (v) => set('strip', (top) => (top.strip = { value: v, source: 'own-test' })),
    },
  ]
})
</script>

<template>
  <FieldGrid :fields="fields" />
</template>
