import { defineStore } from 'pinia'
import { ref } from 'vue'

interface Told {
  text: string
  /** Names the message: two may have the same words. */
  contentClass: string
}

/** What happened, said once at the foot of the page, with a way back where there is one. */
export const useTold = defineStore('told', () => {
  const queue = ref<Told[]>([])
  /** What was said before there was a place to show it: that is read with the first message. */
  const early = ref<Told[]>([])
  const open = ref(false)
  /** How what was said is undone, by the name of its message. */
  const ways = new Map<string, () => unknown>()
  let count = 0

  /** Says what happened. */
  function say(text: string, undo?: () => unknown): void {
    count += 1
    const contentClass = `told-${count}`
    if (undo) ways.set(contentClass, undo)
    const to = open.value ? queue : early
    to.value = [...to.value, { text, contentClass }]
  }
  /** Shows messages from now on, those first that wait. */
  function show(): void {
    open.value = true
    queue.value = early.value
    early.value = []
  }
  const mayUndo = (name: unknown): boolean => ways.has(String(name))
  /** Undoes what a message told, once. */
  function undo(name: unknown): void {
    const way = ways.get(String(name))
    ways.delete(String(name))
    way?.()
  }
  return { queue, early, say, show, mayUndo, undo }
})
