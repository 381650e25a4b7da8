<script setup lang="ts">
import { nextTick, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { useShownPath } from './useShownPath'

/**
 * A page that shows its title first and mounts after that was drawn: a heavy page would otherwise hold the click that
 * led to it until all of it stands.
 */
defineProps<{ title?: string; step?: boolean }>()
const route = useRoute()
const shown = useShownPath()
const drawn = ref(document.hidden)
/** A tab that is covered may draw no frame: the page does not wait for one longer than this. */
const FRAME_MS = 400
async function mount(): Promise<void> {
  drawn.value = true
  await nextTick()
  shown.value = route.path
}
let last: ReturnType<typeof setTimeout> | undefined
onMounted(() => {
  if (drawn.value) return void mount()
  last = setTimeout(() => void mount(), FRAME_MS)
  requestAnimationFrame(() => {
    clearTimeout(last)
    last = setTimeout(() => void mount())
  })
})
onBeforeUnmount(() => clearTimeout(last))
</script>

<template>
  <slot v-if="drawn" />
  <div v-else :class="{ page: !step }" aria-hidden="true">
    <component :is="step ? 'h2' : 'h1'" class="early">{{ title }}</component>
  </div>
</template>
