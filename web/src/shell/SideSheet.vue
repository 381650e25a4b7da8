<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import { useWindowScroll } from '@vueuse/core'
import { computed, nextTick, ref, useId, watch } from 'vue'
import { useDisplay } from 'vuetify'

/**
 * What is set rarely, beside the page whose figures it moves: they stay in view. On a phone
 * it lies over the page.
 */
defineProps<{ title: string }>()
const open = defineModel<boolean>({ required: true })
const WIDTH = 420
/** The height of the head of the site, which scrolls away. */
const HEAD = 52
const { width, mdAndUp } = useDisplay()
const { y } = useWindowScroll()
const id = useId()
const heading = ref<HTMLElement | null>(null)
let opener: Element | null = null
const place = computed(() => {
  if (!mdAndUp.value) return { top: '0px', height: '100vh' }
  const top = `calc(var(--top, 0px) + ${Math.max(0, HEAD - y.value)}px)`
  return { top, height: `calc(100vh - ${top})` }
})
watch(open, async (shown) => {
  if (shown) {
    opener = document.activeElement
    await nextTick()
    heading.value?.focus({ preventScroll: true })
  } else if (opener instanceof HTMLElement && opener.isConnected) opener.focus({ preventScroll: true })
})
</script>

<template>
  <v-navigation-drawer
    v-model="open"
    class="side-sheet no-print"
    location="right"
    disable-resize-watcher
    disable-route-watcher
    :temporary="!mdAndUp"
    :width="mdAndUp ? WIDTH : width"
    :style="place"
    role="complementary"
    :aria-labelledby="id"
    @keydown.esc="open = false"
  >
    <template v-if="open">
      <div class="head">
        <h2 :id="id" ref="heading" tabindex="-1">{{ title }}</h2>
        <v-btn :icon="mdiClose" size="small" variant="text" aria-label="Close" @click="open = false" />
      </div>
      <div class="body"><slot /></div>
    </template>
  </v-navigation-drawer>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  position: sticky;
  top: 0;
  z-index: 2;
  padding: 8px 10px 6px 20px;
  background: var(--paper);
  border-bottom: 1px solid var(--line);
}
.head h2 {
  outline: none;
}
.body {
  padding: 6px 20px 24px;
}
</style>
