<script setup lang="ts">
import { computed } from 'vue'
import type { Top } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../people/session'
import PickField from '../../fields/PickField.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** What all edges of a top have in common. */
const desk = useDesk()
const session = useSession()
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
</script>

<template>
  <div class="pair">
    <QuantityField
      kind="length"
      label="Thickness of the edge"
      :model-value="top.thickness"
      :disabled="!session.mayEdit"
      positive
      @update:model-value="(v) => set('thickness', (t) => (t.thickness = v))"
    />
    <PickField
      label="Edge profile"
      :options="profiles"
      :model-value="top.profile ?? 'square'"
      @update:model-value="(v) => set('profile', (t) => (t.profile = v as Top['profile']))"
    />
    <QuantityField
      v-if="cut"
      kind="length"
      :label="top.profile === 'chamfer' ? 'Chamfer' : 'Radius'"
      :model-value="top.arris ?? 0"
      :disabled="!session.mayEdit"
      @update:model-value="(v) => set('arris', (t) => (t.arris = v))"
    />
    <QuantityField
      kind="length"
      label="Run-off over edges"
      :told="top.runOff ? undefined : 'rule of thumb'"
      :model-value="top.runOff?.value ?? USUAL.runOff"
      :disabled="!session.mayEdit"
      @update:model-value="(v) => set('run-off', (t) => (t.runOff = { value: v, source: 'own-test' }))"
    />
    <QuantityField
      kind="length"
      label="Narrow strip limit"
      :model-value="top.strip?.value ?? USUAL.strip"
      :disabled="!session.mayEdit"
      @update:model-value="(v) => set('strip', (t) => (t.strip = { value: v, source: 'own-test' }))"
    />
  </div>
</template>
