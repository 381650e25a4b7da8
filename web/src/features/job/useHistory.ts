import { useManualRefHistory } from '@vueuse/core'
import type { Ref } from 'vue'

const DEPTH = 200
const COALESCE_MS = 900

/** Undo and redo of something that is replaced, never changed. */
export function useHistory<T>(now: Ref<T>) {
  const history = useManualRefHistory(now, { capacity: DEPTH })
  let lastLabel = ''
  let lastAt = 0

  /**
   * Remembers what stands now. Changes with the same label in quick succession
   * undo as one; whether this one is a step of its own is given back.
   */
  function note(label: string): boolean {
    const at = Date.now()
    const together = label === lastLabel && at - lastAt <= COALESCE_MS && history.canUndo.value
    history.commit()
    if (together) history.undoStack.value = history.undoStack.value.slice(1)
    lastLabel = label
    lastAt = at
    return !together
  }

  /** Begins anew: undoing past someone else's save would silently take their work away. */
  function forget(): void {
    history.commit()
    history.clear()
    lastLabel = ''
  }

  function step(move: () => void): void {
    lastLabel = ''
    move()
  }

  return {
    note,
    forget,
    undo: (): void => step(history.undo),
    redo: (): void => step(history.redo),
    canUndo: history.canUndo,
    canRedo: history.canRedo,
  }
}
