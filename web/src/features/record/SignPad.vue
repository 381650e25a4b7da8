<script setup lang="ts">
import { ref } from 'vue'

/** A place to sign with a finger or a pen: strokes in a box of 1000 by 300. */
const ink = defineModel<string>({ required: true })
const WIDE = 1000
const HIGH = 300
const MOST = 19_000
const down = ref(false)
function put(event: PointerEvent, how: 'M' | 'L'): void {
  const box = (event.currentTarget as SVGElement).getBoundingClientRect()
  const x = Math.max(0, Math.min(WIDE, Math.round(((event.clientX - box.left) / box.width) * WIDE)))
  const y = Math.max(0, Math.min(HIGH, Math.round(((event.clientY - box.top) / box.height) * HIGH)))
  if (ink.value.length < MOST) ink.value += `${how}${x} ${y}`
}
function begin(event: PointerEvent): void {
  ;(event.currentTarget as SVGElement).setPointerCapture(event.pointerId)
  down.value = true
  put(event, 'M')
}
function draw(event: PointerEvent): void {
  if (down.value) put(event, 'L')
}
</script>

<template>
  <svg
    :viewBox="`0 0 ${WIDE} ${HIGH}`"
    class="pad"
    role="img"
    aria-label="Sign here with a finger or a pen"
    data-test="sign-pad"
    @pointerdown="begin"
    @pointermove="draw"
    @pointerup="down = false"
  >
    <path d="M40 240H960" class="rule" />
    <path :d="ink" class="ink" />
  </svg>
</template>

<style scoped>
.pad {
  width: 100%;
  max-width: 520px;
  background: var(--well);
  border: 2px solid var(--ink);
  touch-action: none;
}
.rule {
  stroke: var(--line);
  stroke-width: 3;
}
.ink {
  fill: none;
  stroke: var(--ink);
  stroke-width: 6;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
