import { isTyping } from '../../fields/typing'
import { useEventListener } from '@vueuse/core'

/** What the keyboard does on the pages of a job. */
interface Does {
  undo: () => void
  redo: () => void
  help: () => void
  cards: () => void
  step: (number: number) => void
  turn: (by: number) => void
  decide: () => void
}

/** The short list of keys; none of them while something is being typed. */
export function useJobKeys(does: Does): void {
  useEventListener(window, 'keydown', (event) => {
    const key = event.key.toLowerCase()
    if ((event.ctrlKey || event.metaKey) && key === 'z') {
      event.preventDefault()
      if (event.shiftKey) does.redo()
      else does.undo()
      return
    }
    const typing = isTyping(event)
    if (typing || event.ctrlKey || event.metaKey || event.altKey) return
    if (key === '?') does.help()
    else if (key === 'p') does.cards()
    else if (key === '[') does.turn(-1)
    else if (key === ']') does.turn(1)
    else if (key === '.') does.decide()
    else if (key >= '1' && key <= '9') does.step(Number(key))
  })
}
