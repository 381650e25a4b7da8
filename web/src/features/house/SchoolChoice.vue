<script setup lang="ts">
import type { School } from '../../api/client'

/** One question on which practice differs, with what each answer changes. */
const props = defineProps<{ school: School; value?: string; locked?: boolean }>()
const emit = defineEmits<{ choose: [value: string] }>()
const on = (value: string): boolean => (props.value ?? props.school.choices[0]?.value) === value
</script>

<template>
  <fieldset class="sheet school" :disabled="locked" :data-test="`school-${school.id}`">
    <legend>{{ school.title }}</legend>
    <v-radio-group
      :model-value="value ?? school.choices[0]?.value"
      :disabled="locked"
      :aria-label="school.title"
      hide-details
      @update:model-value="emit('choose', String($event))"
    >
      <v-radio v-for="c in school.choices" :key="c.value" :value="c.value" :class="{ on: on(c.value) }">
        <template #label>
          <span>
            <strong>{{ c.name }}</strong>
            <span class="small"
              >{{ c.reason }} <span class="quiet">{{ c.consequence }}</span></span
            >
          </span>
        </template>
      </v-radio>
    </v-radio-group>
  </fieldset>
</template>

<style scoped>
.school {
  break-inside: avoid;
  padding: 10px 14px 12px;
  margin: 0 0 14px;
}
legend {
  font-weight: 700;
  padding: 0 6px;
}
.school :deep(.v-radio) {
  align-items: start;
  padding: 4px 8px 4px 4px;
  border-left: 4px solid transparent;
}
.school :deep(.v-radio.on) {
  border-left-color: var(--cure);
  background: var(--faint);
}
strong,
.small {
  display: block;
}
.small .quiet {
  display: inline;
}
</style>
