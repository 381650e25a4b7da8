import type { PreparationTask, StepChange } from '../../api/client'
import { useDesk } from '../job/useEditor'

const END = 'end'

export interface Steps {
  change: (task: PreparationTask, label: string, by: Partial<StepChange>) => void
  move: (all: PreparationTask[], from: number, to: number) => void
  putBack: (id: string) => void
  keepOwn: (own: StepChange) => void
  ownOf: (task: PreparationTask) => StepChange | undefined
}

/** What a person changes of a preparation: steps left out, repeated or moved, and own ones. */
export function useSteps(): Steps {
  const desk = useDesk()
  const idOf = (task: PreparationTask): string => task.step ?? task.id

  function edit(label: string, of: (all: StepChange[]) => StepChange[]): void {
    desk.editSurface(label, (s) => {
      if (!s.survey) return
      const next = of(s.survey.steps ?? []).filter(
        (c) => c.own !== undefined || c.before !== undefined || c.left !== undefined || (c.passes ?? 1) > 1,
      )
      s.survey.steps = next.length > 0 ? next : undefined
    })
  }
  /** What changed last is applied last. */
  function patched(all: StepChange[], id: string, by: Partial<StepChange>): StepChange[] {
    const was = all.find((c) => c.id === id) ?? { id }
    const next: StepChange = { ...was, ...by }
    if ((next.passes ?? 1) <= 1) delete next.passes
    return [...all.filter((c) => c.id !== id), next]
  }
  return {
    change(task, label, by) {
      edit(`${label} ${task.id}`, (all) => patched(all, idOf(task), by))
    },
    move(all, from, to) {
      const task = all[from]
      if (!task) return
      const before = (to < from ? all[to] : all[to + 1])?.id ?? END
      edit(`move ${task.id}`, (changes) => patched(changes, idOf(task), { before }))
    },
    putBack(id) {
      edit(`put back ${id}`, (all) => all.map((c) => (c.id === id ? { ...c, left: undefined } : c)))
    },
    keepOwn(own) {
      edit(`own step ${own.id}`, (all) => patched(all, own.id, own))
    },
    ownOf(task) {
      return desk.surface.value.survey?.steps?.find((c) => c.id === task.step)
    },
  }
}
