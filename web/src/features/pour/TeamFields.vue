<script setup lang="ts">
import { computed } from 'vue'
import type { CrewMember } from '../../api/client'
import TickField from '../../fields/TickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import NameField from '../../fields/NameField.vue'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import { roles } from './words'

/** Who is at the pour and what each does. */
const desk = useDesk()
const session = useSession()
type Role = CrewMember['roles'][number]
const team = computed(() => desk.file.value.job.crew.team ?? [])
const all = Object.keys(roles) as Role[]
const floor = all.filter((r) => r !== 'mixer' && r !== 'runner')
const usual: Record<string, CrewMember[]> = {
  'One alone': [{ name: 'Alone', roles: all }],
  'One mixes, two lay': [
    { name: 'Mixer', roles: ['mixer', 'runner'] },
    { name: 'Floor 1', roles: floor },
    { name: 'Floor 2', roles: floor },
  ],
  'One pours, one spreads, one rolls': [
    { name: 'Mixer', roles: ['mixer', 'runner'] },
    { name: 'Rake', roles: ['pourer', 'spreader'] },
    { name: 'Roller', roles: ['roller', 'cutter-in', 'caster'] },
  ],
  'Three roll, one finishes': [
    { name: 'Mixer', roles: ['mixer', 'runner'] },
    { name: 'Roller 1', roles: ['pourer', 'spreader', 'cutter-in'] },
    { name: 'Roller 2', roles: ['pourer', 'spreader', 'cutter-in'] },
    { name: 'Roller 3', roles: ['pourer', 'spreader', 'cutter-in'] },
    { name: 'Finisher', roles: ['roller', 'caster'] },
  ],
}
function set(people: CrewMember[]): void {
  desk.editor.edit('the team', (f) => (f.job.crew.team = people.length > 0 ? people : undefined))
}
function change(at: number, by: Partial<CrewMember>): void {
  set(team.value.map((p, i) => (i === at ? { ...p, ...by } : p)))
}
function play(at: number, role: Role, on: boolean): void {
  const person = team.value[at]
  if (!person) return
  const next = on ? [...person.roles, role] : person.roles.filter((r) => r !== role)
  if (next.length > 0) change(at, { roles: next })
}
</script>

<template>
  <FoldPanel class="team" data-test="team" open>
    <template #title>
      People and roles<span class="told"
        >:
        {{
          team.length > 0
            ? team.map((p) => p.name).join(', ')
            : 'one mixes, the spreaders do everything on the floor'
        }}</span
      >
    </template>
    <div v-for="(p, i) in team" :key="i" class="person">
      <NameField
        :label="`Name ${i + 1}`"
        :model-value="p.name"
        :locked="!session.mayEdit"
        @update:model-value="change(i, { name: $event })"
      />
      <div class="row parts" role="group" :aria-label="`Roles of ${p.name}`">
        <TickField
          v-for="r in all"
          :key="r"
          :label="roles[r]"
          :heard="`${p.name} ${roles[r]}`"
          :model-value="p.roles.includes(r)"
          :disabled="!session.mayEdit"
          @update:model-value="play(i, r, $event)"
        />
        <v-btn
          v-if="session.mayEdit"
          size="small"
          :aria-label="`Remove ${p.name}`"
          @click="set(team.filter((_, n) => n !== i))"
          >Remove</v-btn
        >
      </div>
    </div>
    <div v-if="session.mayEdit" class="row mt-3">
      <v-btn v-for="(people, name) in usual" :key="name" size="small" @click="set(people)">{{ name }}</v-btn>
      <v-btn
        v-if="team.length > 0"
        size="small"
        data-test="add-hand"
        @click="set([...team, { name: `Hand ${team.length + 1}`, roles: floor }])"
        >Add a person</v-btn
      >
      <v-btn v-if="team.length > 0" size="small" variant="text" @click="set([])">Use a headcount only</v-btn>
    </div>
  </FoldPanel>
</template>

<style scoped>
.person {
  display: grid;
  grid-template-columns: 200px 1fr;
  gap: 14px;
  align-items: end;
  margin-top: 8px;
}
.parts {
  padding-bottom: 8px;
}
.parts label {
  display: inline-flex;
  gap: 5px;
  align-items: center;
}
@media (max-width: 700px) {
  .person {
    grid-template-columns: 1fr;
  }
}
</style>
