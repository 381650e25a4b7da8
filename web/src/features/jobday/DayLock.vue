<script setup lang="ts">
import { useTimeoutFn } from '@vueuse/core'
import { computed, ref } from 'vue'

/** Lies over the day against splashes and sleeves: what is shown and said goes on, and nothing can be touched. */
const locked = defineModel<boolean>({ required: true })
const HOLD_MS = 1000
const held = ref(false)
const open = (): void => {
  held.value = false
  locked.value = false
}
const { start, stop } = useTimeoutFn(open, HOLD_MS, { immediate: false })
function hold(): void {
  held.value = true
  start()
}
function release(): void {
  held.value = false
  stop()
}
const lasts = computed(() => `${String(HOLD_MS)}ms`)
</script>

<template>
  <div class="lock" data-test="day-lock" role="dialog" aria-modal="true" aria-label="Locked against splashes">
    <button
      type="button"
      class="touch main"
      :class="{ held }"
      autofocus
      @pointerdown="hold"
      @pointerup="release"
      @pointerleave="release"
      @pointercancel="release"
      @contextmenu.prevent
      @keydown.enter="open"
    >
      Locked: hold a second to unlock
    </button>
  </div>
</template>

<style scoped>
.lock {
  position: fixed;
  inset: 0;
  z-index: 20;
  display: flex;
  align-items: end;
  padding: 14px;
  touch-action: none;
}
button {
  flex: 1;
  background-image: linear-gradient(var(--cure), var(--cure));
  background-repeat: no-repeat;
  background-size: 0 100%;
}
.held {
  background-size: 100% 100%;
  transition: background-size v-bind(lasts) linear;
}
</style>
