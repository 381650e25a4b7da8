import type { Portion, Source } from '../api/client'
import type { ReadKind } from './useReader'

interface Common {
  label: string
  /** Where its value comes from, or what it is good for. */
  told?: string
  /** Locked by itself, whoever asks. */
  locked?: boolean
}
/** A value with where it came from. */
export interface Sourced {
  value: number
  source: Source
}

/** One field of a grid: what it holds, and what is done with what is entered. */
export type Field =
  | (Common & {
      as: 'quantity'
      kind: ReadKind
      value?: number
      positive?: boolean
      take: (si: number) => void
    })
  | (Common & {
      as: 'number'
      value?: number
      whole?: boolean
      least?: number
      most?: number
      optional?: boolean
      take: (n: number | undefined) => void
    })
  | (Common & {
      as: 'pick'
      value?: string
      options: Record<string, string>
      /** What the first entry says, which stands for none; it is taken as ''. */
      none?: string
      take: (value: string) => void
    })
  | (Common & { as: 'name'; value?: string; take: (value: string) => void })
  | (Common & { as: 'time'; value?: string; take: (value: string) => void })
  | (Common & { as: 'date'; value?: string; take: (value: string) => void })
  | (Common & { as: 'colour'; value?: string; take: (value: string) => void })
  | (Common & {
      as: 'tick'
      value?: boolean
      /** What is heard where the label alone does not say of which thing. */
      heard?: string
      take: (on: boolean) => void
    })
  | (Common & {
      as: 'sourced'
      kind: ReadKind
      value?: Sourced
      from: Source
      needed?: boolean
      take: (value: Sourced | undefined) => void
    })
  | (Common & {
      as: 'portion'
      value?: Portion
      from: Source
      take: (value: Portion | undefined) => void
    })
