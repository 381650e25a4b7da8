<script setup lang="ts">
import { computed, ref } from 'vue'
import PageParts from '../../shell/PageParts.vue'
import TickField from '../../fields/TickField.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import HoursFields from '../job/HoursFields.vue'
import { useSession } from '../../session/session'
import SchoolChoice from './SchoolChoice.vue'
import { useHouseEdits } from './useHouseEdits'
import { useHouseFields } from './useHouseFields'

const session = useSession()
const edits = useHouseEdits()
const { house, schools, trouble, state, past, ready, change, undo } = edits
const { crew, limits, money, room, chosen, choose } = useHouseFields(edits)
const part = ref('defaults')
const parts = {
  defaults: 'Defaults for new jobs',
  preparation: 'Preparation',
  mixing: 'Mixing',
  application: 'Application',
}
const fields = computed(() => [...crew.value, ...limits.value, ...money.value, ...room.value])
</script>

<template>
  <div class="page">
    <div class="row mb-2">
      <h1 class="grow">Company standards</h1>
      <v-btn v-if="session.mayKeep" size="small" variant="text" to="/start">Guided set-up</v-btn>
      <span class="small quiet" aria-live="polite" data-test="house-state">{{
        state === 'saving' ? 'saving …' : state === 'saved' ? 'saved' : ''
      }}</span>
      <v-btn v-if="session.mayKeep" size="small" :disabled="past.length === 0" @click="undo">Undo</v-btn>
    </div>
    <p class="mb-4">
      Where practice differs, choose how your company works. New jobs start from these settings and can change
      them; existing jobs keep their own.
    </p>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-if="!ready && !trouble" class="quiet">Reading …</p>
    <template v-if="ready">
      <PageParts v-model="part" class="mb-3" :parts="parts" label="Company standards" />
      <section v-if="part === 'defaults'" class="sheet start" aria-label="Defaults for new jobs">
        <FieldGrid :fields="fields" :columns="4" :locked="!session.mayKeep" />
        <HoursFields
          class="mt-3 mb-3"
          :hours="house.hours"
          :locked="!session.mayKeep"
          @change="change({ hours: $event })"
        />
      </section>
      <div v-else class="schools">
        <SchoolChoice
          v-for="s in schools.filter((q) => q.part === part)"
          :key="s.id"
          :school="s"
          :value="chosen(s)"
          :locked="!session.mayKeep"
          @choose="choose(s, $event)"
        />
      </div>
      <TickField
        v-if="part === 'preparation'"
        class="sheet acid"
        label="Acid may be used in pools and on plaster. The other practice is to grind only: acid soaks in, must be neutralised completely, and stains the paint."
        :model-value="house.methods?.acidInPool"
        :disabled="!session.mayKeep"
        @update:model-value="change({ methods: { ...house.methods, acidInPool: $event || undefined } })"
      />
      <p class="small quiet mt-3">
        All of it is common practice without a published source. Data sheets, local codes and licensed
        practice rule.
      </p>
    </template>
  </div>
</template>

<style scoped>
.start {
  padding: 14px 18px;
  margin-bottom: 16px;
}
.acid {
  padding: 10px 14px;
}
.schools {
  columns: 3 340px;
  column-gap: 16px;
}
</style>
