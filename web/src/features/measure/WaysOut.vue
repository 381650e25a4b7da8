<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { api } from '../../api/client'
import PickField from '../../fields/PickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import QuantityField from '../../fields/QuantityField.vue'
import TextField from '../../fields/TextField.vue'
import { taking } from '../../fields/useReader'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'

/** The doors of a floor, when they are shut, and a side that stays passable. */
const desk = useDesk()
const session = useSession()
const layout = computed(() => desk.surface.value.layout)
const walls = computed(() => desk.surface.value.floor.outline.length)
const earlier = computed(() => desk.file.value.job.surfaces.filter((s) => s.id !== desk.surface.value.id))
const WAY = 1.2
const wall = ref(1)
const width = ref(WAY)
const { trouble, ask } = useRequest()
const LISTED = 60
const numbered = computed(() =>
  Object.fromEntries(Array.from({ length: Math.min(walls.value, LISTED) }, (_, i) => [i + 1, String(i + 1)])),
)

const hour = (event: Event): string | undefined => (event.target as HTMLInputElement).value || undefined
function shut(n: number, at: string | undefined): void {
  desk.editSurface(`door ${n} shut`, (s) => {
    const other = s.layout.others?.[n - 1]
    if (n === 0) s.layout.closes = at
    else if (other) other.closes = at
  })
}
function remove(n: number): void {
  desk.editSurface('remove a door', (s) => (s.layout.others = s.layout.others?.filter((_, k) => k !== n - 1)))
}
function wait(id: string): void {
  desk.editSurface('order of surfaces', (s) => (s.after = id || undefined))
}
/** Divides the floor, so that one side stays passable until the other can be walked on. */
async function part(): Promise<void> {
  await taking(async () => {
    const { data } = await ask(
      api.POST('/api/part', {
        body: { surface: desk.surface.value, wall: wall.value, width: width.value },
      }),
      'The floor cannot be divided like that.',
      'The server does not answer; the floor stays as it is for now.',
    )
    if (!data) return
    const id = desk.surface.value.id
    desk.editor.edit('keep a side passable', (f) => {
      f.job.surfaces = f.job.surfaces.flatMap((s) => (s.id === id ? [data.open, data.strip] : [s]))
    })
  })
}
</script>

<template>
  <FoldPanel :open="!!desk.surface.value.after" data-test="ways-out" title="Doors and exits">
    <ul v-if="layout.exit" class="doors">
      <li v-for="(e, n) in [{ closes: layout.closes }, ...(layout.others ?? [])]" :key="n">
        <span>{{ n === 0 ? 'Exit' : `Exit ${n + 1}` }}</span>
        <TextField
          :label="n === 0 ? 'Closed at' : `Exit ${n + 1} closed at`"
          type="time"
          :model-value="e.closes"
          :readonly="!session.mayEdit"
          @change="shut(n, hour($event))"
        />
        <v-btn
          v-if="n > 0 && session.mayEdit"
          size="small"
          variant="text"
          :aria-label="`Remove exit ${n + 1}`"
          @click="remove(n)"
          >Remove</v-btn
        >
      </li>
    </ul>
    <p class="small quiet">
      {{
        layout.exit
          ? 'The work ends at a door that is never closed, if there is one; the plan chooses which.'
          : 'Put the exit on the plan, and others where there are more doors.'
      }}
    </p>
    <template v-if="session.mayEdit">
      <p class="small mt-3">
        If people must pass during the work, divide the floor: the strip along a wall is coated when the rest
        can be walked on.
      </p>
      <div class="way">
        <PickField
          label="Along wall"
          data-test="passable-wall"
          :model-value="String(wall)"
          :options="numbered"
          @update:model-value="wall = Number($event)"
        />
        <QuantityField v-model="width" kind="length" label="Width kept passable" positive />
        <v-btn size="small" data-test="passable" @click="part">Divide</v-btn>
      </div>
      <p v-if="trouble" class="small" role="alert">{{ trouble }}</p>
    </template>
    <PickField
      v-if="earlier.length > 0"
      class="after"
      label="Begins after"
      data-test="after"
      none="with the job"
      :model-value="desk.surface.value.after"
      :options="Object.fromEntries(earlier.map((s) => [s.id, `once ${s.name} can be walked on`]))"
      @update:model-value="wait"
    />
  </FoldPanel>
</template>

<style scoped>
.doors {
  list-style: none;
  padding: 0;
  margin: 10px 0 6px;
  display: grid;
  gap: 8px;
}
.doors li {
  display: grid;
  grid-template-columns: 4rem 9rem 1fr;
  justify-items: start;
  gap: 10px;
  align-items: end;
}
.way {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 12px;
  align-items: end;
  margin-top: 6px;
}
.way select,
.after select {
  width: auto;
}
.after {
  display: block;
  margin-top: 12px;
}
</style>
