import table from '../api/units.gen.json'
import type { Units } from '../api/client'

export type Kind = keyof (typeof table)['metric']

interface UnitStep {
  from: number
  symbol: string
  si: number
  offset: number
  decimals: number
  feetInch?: boolean
}

const INCH = 0.0254
const SIXTEENTHS_PER_INCH = 16

/** Prints an SI amount with its unit, as the server's sentences do. */
export function format(kind: Kind, si: number, units: Units): string {
  const steps: UnitStep[] = table[units][kind]
  const step = steps.find((s) => Math.abs(si) >= s.from)
  if (!step) return ''
  if (step.feetInch) return feetInches(si)
  const number = group(rounded((si - step.offset) / step.si, step.decimals))
  if (step.symbol === '') return number
  return step.symbol === '%' || step.symbol === '°' ? number + step.symbol : `${number} ${step.symbol}`
}

/** Rounds as the server does: the shortest decimal, halves away from zero. */
const rounders = Array.from(
  { length: 5 },
  (_, decimals) =>
    new Intl.NumberFormat('en', {
      useGrouping: false,
      maximumFractionDigits: decimals,
      ...{ roundingMode: 'halfExpand' },
    }),
)
function rounded(value: number, decimals: number): string {
  return rounders[decimals]?.format(value) ?? String(value)
}

function group(fixed: string): string {
  const trimmed = fixed.includes('.') ? fixed.replace(/\.?0+$/, '') : fixed
  const negative = trimmed.startsWith('-') && /[1-9]/.test(trimmed)
  const [whole = '', rest] = trimmed.replace('-', '').split('.')
  const spaced = whole.replace(/\B(?=(\d{3})+$)/g, '\u202f')
  return (negative ? '−' : '') + spaced + (rest ? `.${rest}` : '')
}

function feetInches(metres: number): string {
  const sixteenths = Math.round((Math.abs(metres) / INCH) * SIXTEENTHS_PER_INCH)
  const feet = Math.floor(sixteenths / 192)
  const inches = Math.floor((sixteenths % 192) / SIXTEENTHS_PER_INCH)
  let part = sixteenths % SIXTEENTHS_PER_INCH
  let whole = SIXTEENTHS_PER_INCH
  while (part > 0 && part % 2 === 0) {
    part /= 2
    whole /= 2
  }
  const tail = [
    inches > 0 || feet > 0 || part === 0 ? String(inches) : '',
    part > 0 ? `${part}/${whole}` : '',
  ]
  const ahead = feet > 0 ? `${group(String(feet))}' ` : ''
  return `${metres < 0 ? '−' : ''}${ahead}${tail.filter(Boolean).join(' ')}"`
}

/** Prints an amount of money in the job's currency. */
export function money(amount: number, currency: string): string {
  try {
    return new Intl.NumberFormat(undefined, { style: 'currency', currency }).format(amount)
  } catch {
    return `${amount.toFixed(2)} ${currency}`
  }
}

const SQUARE_FOOT = 0.09290304

/** Prints what a square metre costs, per the unit in which floors are measured. */
export function pricePerArea(amount: number, currency: string, units: Units): string {
  return units === 'us' ? `${money(amount * SQUARE_FOOT, currency)}/ft²` : `${money(amount, currency)}/m²`
}
