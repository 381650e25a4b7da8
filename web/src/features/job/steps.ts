import type { Finding, Step } from '../../api/client'

/** The steps of a job, in the order of the work, as pages. */
export const steps: { id: Step; name: string }[] = [
  { id: 'measure', name: 'Measure' },
  { id: 'survey', name: 'Survey' },
  { id: 'build-up', name: 'Build-up' },
  { id: 'kits', name: 'Kits' },
  { id: 'batches', name: 'Batches' },
  { id: 'pour', name: 'Pour' },
]

export function stepPath(job: string, step: Step): string {
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
