import { applyPatch, type Operation } from 'fast-json-patch'
import { computed, inject, provide, ref, type InjectionKey, type Ref } from 'vue'
import type { Finding, Fix, Plan, PlanFile, Step, Surface, SurfacePlan } from '../../api/client'
import { provideWorkings } from '../../fields/workings'
import type { JobEditor } from './useJob'

export interface Desk {
  jobId: string
  editor: JobEditor
  file: Ref<PlanFile>
  plan: Ref<Plan>
  surface: Ref<Surface>
  surfacePlan: Ref<SurfacePlan | undefined>
  index: Ref<number>
  editSurface: (label: string, change: (surface: Surface, file: PlanFile) => void) => void
  findings: (step: Step) => Finding[]
  take: (fix: Fix) => void
}

const key: InjectionKey<Desk> = Symbol('desk')

/** Sets up what the panels of a job share: the job, its plan, and the surface in hand. */
export function provideDesk(jobId: string, editor: JobEditor, file: Ref<PlanFile>, plan: Ref<Plan>): Desk {
  const index = ref(0)
  const surface = computed(() => {
    const at = Math.min(index.value, file.value.job.surfaces.length - 1)
    return file.value.job.surfaces[at] as Surface
  })
  const desk: Desk = {
    jobId,
    editor,
    file,
    plan,
    surface,
    surfacePlan: computed(() => plan.value.surfaces.find((s) => s.id === surface.value.id)),
    index,
    editSurface(label, change) {
      const id = surface.value.id
      editor.edit(`${id} ${label}`, (f) => {
        const found = f.job.surfaces.find((s) => s.id === id)
        if (found) change(found, f)
      })
    },
    take(fix) {
      // Each fix undoes by itself, so its label is never that of another edit.
      editor.edit(`${fix.label} ${Date.now()}`, (f) => applyPatch(f, fix.patch as Operation[]))
    },
    findings: (step) => {
      const here = `/job/surfaces/${file.value.job.surfaces.indexOf(surface.value)}/`
      return plan.value.findings.filter(
        (f) => f.step === step && (f.path.startsWith(here) || !f.path.startsWith('/job/surfaces/')),
      )
    },
  }
  provide(key, desk)
  provideWorkings()
  return desk
}

export function useDesk(): Desk {
  const desk = inject(key)
  if (!desk) throw new Error('no job is open around this component')
  return desk
}
