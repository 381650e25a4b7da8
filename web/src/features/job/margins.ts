import type { Units } from '../../api/client'

const KELVIN_IN_F = 1.8

/** How much cooler a slab may come, K, as choices in somebody's units. */
export function marginWords(units: Units): Record<string, string> {
  const words = (k: number): string =>
    units === 'us' ? `${(k * KELVIN_IN_F).toFixed(0)} °F cooler` : `${String(k)} K cooler`
  return { 1: words(1), 2: words(2), 3: words(3) }
}
