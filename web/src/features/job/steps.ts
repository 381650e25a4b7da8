import type { Component } from 'vue'
import type { Finding } from '../../api/client'

/** A page of a job. */
export interface JobStep {
  /** The last part of its address. */
  id: string
  name: string
  page: () => Promise<{ default: Component }>
  /** What stands below its name, where the plan says nothing of how far it is. */
  words?: string
  /** It shows one surface at a time. */
  bySurface?: boolean
}

/** The pages of a job, in the order of the work. A page is added here and nowhere else. */
export const steps: JobStep[] = [
  { id: 'measure', name: 'Measure', page: () => import('../measure/MeasurePage.vue'), bySurface: true },
  { id: 'survey', name: 'Survey', page: () => import('../survey/SurveyPage.vue'), bySurface: true },
  { id: 'build-up', name: 'Build-up', page: () => import('../buildup/BuildUpPage.vue'), bySurface: true },
  { id: 'kits', name: 'Kits', page: () => import('../kits/KitsPage.vue') },
  { id: 'batches', name: 'Batches', page: () => import('../batches/BatchesPage.vue'), bySurface: true },
  { id: 'pour', name: 'Pour', page: () => import('../pour/PourPage.vue'), bySurface: true },
  { id: 'days', name: 'Days', page: () => import('../roster/DaysPage.vue'), words: 'who and when' },
]

export function stepPath(job: string, step: string): string {
  return `/jobs/${job}/${step}`
}

/** What asks for a decision, in the order of the work. */
export function decisions(findings: Finding[]): Finding[] {
  return steps.flatMap((s) => findings.filter((f) => f.step === s.id && f.level !== 'note'))
}

/** The number of the surface that a finding is about, from 0; none where it is about the whole job. */
export function surfaceOf(finding: Finding): number | undefined {
  const at = /^\/job\/surfaces\/(\d+)/.exec(finding.path)
  return at ? Number(at[1]) : undefined
}
