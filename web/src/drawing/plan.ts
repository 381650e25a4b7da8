import type { Point } from '../api/client'

/** A closed line on a plan. */
export interface PlanRing {
  id: string
  kind: 'outline' | 'hole' | 'zone'
  name: string
  points: Point[]
  /** Sides that are drawn in a colour of their own: side number from 0, and what it is. */
  edges?: Map<number, string>
  /** Whether the corners carry numbers and the sides their lengths. */
  measured: boolean
}

/** An open line on a plan, such as a crack. */
export interface PlanLine {
  id: string
  name: string
  kind: string
  points: Point[]
}

/** A place on a plan, such as a drain or a depth. */
export interface PlanMark {
  id: string
  name: string
  kind: 'exit' | 'mixing' | 'door' | 'drain' | 'depth' | 'strip' | 'reading'
  at: Point
  fixed?: boolean
}
