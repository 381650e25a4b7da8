import type { Source } from '../api/client'

/** Where a value came from, as a person would say it. */
export const sourceWords: Record<Source, string> = {
  sheet: 'data sheet',
  'own-test': 'own test',
  standard: 'standard',
  'rule-of-thumb': 'rule of thumb',
  colleague: 'a colleague',
  assumed: 'assumed',
}

export function isWeak(source: Source): boolean {
  return source === 'rule-of-thumb' || source === 'colleague' || source === 'assumed'
}
