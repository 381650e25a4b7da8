<script setup lang="ts">
import { computed } from 'vue'
import { useSession } from '../session/session'
import type { Field } from './grid'
import NameField from './NameField.vue'
import NumberField from './NumberField.vue'
import PickField from './PickField.vue'
import PortionField from './PortionField.vue'
import QuantityField from './QuantityField.vue'
import SourcedField from './SourcedField.vue'
import TextField from './TextField.vue'
import TickField from './TickField.vue'

/** Fields side by side, as a list says; what in the list is not a field is left out. */
const props = defineProps<{
  fields: (Field | false | undefined)[]
  columns?: 2 | 3 | 4 | 5
  /** Locked for this reason, whoever asks. */
  locked?: boolean
  /** Used by whoever may not change the job, too. */
  open?: boolean
}>()
const session = useSession()
const shut = computed(() => props.locked || (!props.open && !session.mayEdit))
const shown = computed(() => props.fields.filter((f): f is Field => !!f))
</script>

<template>
  <div class="fields" :class="`of-${columns ?? 2}`">
    <template v-for="f in shown" :key="f.label">
      <QuantityField
        v-if="f.as === 'quantity'"
        :kind="f.kind"
        :label="f.label"
        :told="f.told"
        :model-value="f.value"
        :positive="f.positive"
        :disabled="shut || f.locked"
        @update:model-value="f.take"
      />
      <NumberField
        v-else-if="f.as === 'number'"
        :label="f.label"
        :told="f.told"
        :model-value="f.value"
        :whole="f.whole"
        :least="f.least"
        :most="f.most"
        :optional="f.optional"
        :disabled="shut || f.locked"
        @update:model-value="f.take"
      />
      <PickField
        v-else-if="f.as === 'pick'"
        :label="f.label"
        :told="f.told"
        :model-value="f.value ?? ''"
        :options="f.options"
        :none="f.none"
        :open="!shut"
        @update:model-value="f.take"
      />
      <NameField
        v-else-if="f.as === 'name'"
        :label="f.label"
        :told="f.told"
        :locked="shut || f.locked"
        :model-value="f.value ?? ''"
        @update:model-value="f.take"
      />
      <TextField
        v-else-if="f.as === 'date' || f.as === 'time' || f.as === 'colour'"
        :label="f.label"
        :told="f.told"
        :type="f.as === 'colour' ? 'color' : f.as"
        :model-value="f.value"
        :disabled="shut || f.locked"
        @change="(e: Event) => f.take((e.target as HTMLInputElement).value)"
      />
      <TickField
        v-else-if="f.as === 'tick'"
        :label="f.label"
        :heard="f.heard"
        :model-value="f.value"
        :disabled="shut || f.locked"
        @update:model-value="f.take"
      />
      <SourcedField
        v-else-if="f.as === 'sourced'"
        :kind="f.kind"
        :label="f.label"
        :model-value="f.value"
        :from="f.from"
        :needed="f.needed"
        @update:model-value="f.take"
      />
      <PortionField
        v-else
        :label="f.label"
        :model-value="f.value"
        :from="f.from"
        @update:model-value="f.take"
      />
    </template>
    <slot />
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 12px;
  align-items: start;
  margin-top: 8px;
}
.of-3 {
  grid-template-columns: repeat(3, 1fr);
}
.of-4 {
  grid-template-columns: repeat(4, 1fr);
}
.of-5 {
  grid-template-columns: repeat(5, 1fr);
}
.tick {
  padding-top: 20px;
}
@media (max-width: 900px) {
  .of-4,
  .of-5 {
    grid-template-columns: 1fr 1fr;
  }
}
@media (max-width: 700px) {
  .fields {
    grid-template-columns: 1fr 1fr;
    align-items: end;
  }
}
</style>
