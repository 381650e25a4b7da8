<script setup lang="ts">
import { computed, defineAsyncComponent, useId } from 'vue'
import { useSession } from '../session/session'
import FieldFrame from './FieldFrame.vue'

/**
 * A choice from a list: from a short one by the device's own, since a phone's is easier hit with
 * gloves than any drawn by a page; from a long one by typing. The first entry stands for none.
 */
const props = defineProps<{
  label: string
  modelValue?: string
  /** The words by value, in pairs where the order matters. */
  options?: Record<string, string> | [string, string][]
  /** Further entries below titles. */
  groups?: { title: string; options: Record<string, string> }[]
  none?: string
  told?: string
  fault?: string
  /** Chosen by whoever may not change the job, too. */
  open?: boolean
  /** The label is heard, not seen: something beside the field says what it is. */
  bare?: boolean
  disabled?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [value: string] }>()
const session = useSession()
const id = useId()
const entries = computed(() =>
  Array.isArray(props.options) ? props.options : Object.entries(props.options ?? {}),
)
const titled = computed(() =>
  (props.groups ?? []).map((g) => ({ title: g.title, options: Object.entries(g.options) })),
)
/** More than these are searched, not looked through. */
const GLANCE = 12
const LongPick = defineAsyncComponent(() => import('./LongPick.vue'))
const long = computed(
  () => entries.value.length + titled.value.reduce((n, g) => n + g.options.length, 0) > GLANCE,
)
const locked = computed(() => props.disabled || (!props.open && !session.mayEdit))

function choose(event: Event): void {
  const list = event.target as HTMLSelectElement
  emit('update:modelValue', list.value)
  // Where the choice was an act, such as adding something, nothing stays chosen.
  list.value = props.modelValue ?? ''
}
</script>

<template>
  <FieldFrame :control="id" :told="fault ? '' : told">
    <LongPick
      v-if="long"
      :id="id"
      :label="label"
      :bare="bare"
      :model-value="modelValue ?? ''"
      :entries="[{ options: entries }, ...titled]"
      :none="none"
      :fault="fault"
      :told="told"
      :disabled="locked"
      @choose="emit('update:modelValue', $event)"
    />
    <v-input v-else :id="id" :hide-details="!fault" :error-messages="fault" :disabled="locked">
      <v-field :id="id" :label="bare ? undefined : label" :error="!!fault" :disabled="locked" active>
        <template #loader />
        <select
          :id="id"
          class="v-field__input"
          :aria-label="label"
          :aria-describedby="told ? `${id}-told` : undefined"
          :value="modelValue ?? ''"
          :disabled="locked"
          @change="choose"
        >
          <option v-if="none !== undefined" value="">{{ none }}</option>
          <option v-for="[value, words] in entries" :key="value" :value="value">{{ words }}</option>
          <optgroup v-for="g in titled" :key="g.title" :label="g.title">
            <option v-for="[value, words] in g.options" :key="value" :value="value">{{ words }}</option>
          </optgroup>
        </select>
      </v-field>
    </v-input>
  </FieldFrame>
</template>
