import type { RecordDay, RecordEvent, RecordIssue } from '../api/client'
import type { Kind } from '../session/units'
import './runtime.gen.js'
import url from './floor.gen.wasm?url'

interface Running {
  open: (issue: string, reads: string, leads: boolean) => string | Error
  add: (events: string) => string | Error
  clear: () => string | Error
  tell: (at: number) => string | Error
  plan: () => string | Error
  seal: (event: string, before: string) => string | Error
  read: (kind: string, text: string) => string | Error
  follow: (older: string, newer: string, proof: string) => string | Error
  label: (text: string, at: number, coat: string) => string | Error
  laid: (coat: string, x: number, y: number, at: number) => string | Error
  judge: (task: string, value: number) => string | Error
  end: () => void
}

declare global {
  var Go: new () => {
    importObject: WebAssembly.Imports
    run: (instance: WebAssembly.Instance) => Promise<void>
  }
  var nephelonFloor: (() => Running) | undefined
}

/** The rules of the record, as they run on this device. */
export interface Floor {
  /** Takes an issued plan, how its reader reads, and whether whoever logs leads the day; what was added stays. */
  open: (issue: RecordIssue, reads: string, leads: boolean) => void
  /** Takes events, each once. */
  add: (events: RecordEvent[]) => void
  /** Forgets the events that were added. */
  clear: () => void
  /** What they tell at a time, ms since 1970 by the clock of the server. */
  tell: (at: number) => RecordDay
  /** The plan with what was decided otherwise while it was laid. */
  plan: () => RecordIssue
  /** Gives an event its hash after another's; throws a sentence where something is wrong with it. */
  seal: (event: Omit<RecordEvent, 'hash' | 'before'>, before: string) => RecordEvent
  /** Reads a quantity as people write it; throws a sentence where that cannot be. */
  read: (kind: Kind, text: string) => { si: number; echo: string }
  /** Takes two heads of the company's log; throws a sentence where the newer does not continue the older. */
  follow: (older: string, newer: string, proof: string[]) => void
  /** What the label of a pack says, and why it is none of a coat; throws a sentence where a barcode is wrong. */
  label: (
    text: string,
    at: number,
    coat: string,
  ) => { code: string; lot?: string; expires?: string; wrong?: string }
  /** Area of a coat, m², that is laid up to a place on its plan; throws a sentence where that cannot be known. */
  laid: (coat: string, place: [number, number], at: number) => number
  /** Whether the reading of a test fits, in the SI unit of its kind, with its limits in words. */
  judge: (task: string, value: number) => { fits: boolean; text: string }
  /** Lets go of what it holds; it is not used any more. */
  end: () => void
}

function given<T>(answer: string | Error): T {
  if (answer instanceof Error) throw answer
  return JSON.parse(answer) as T
}

let program: Promise<void> | undefined

/** Starts the program, once for all pages. */
async function start(): Promise<void> {
  const go = new globalThis.Go()
  const { instance } = await WebAssembly.instantiateStreaming(fetch(url), go.importObject)
  void go.run(instance)
}

/** The rules for one page, the same that the server has. */
export async function openFloor(): Promise<Floor> {
  program ??= start()
  try {
    await program
  } catch (error) {
    program = undefined
    throw error
  }
  const running = globalThis.nephelonFloor?.()
  if (!running) throw new Error('The record cannot be opened on this device. Reload the page.')
  return {
    open: (issue, reads, leads) => void given(running.open(JSON.stringify(issue), reads, leads)),
    add: (events) => void given(running.add(JSON.stringify(events))),
    clear: () => void given(running.clear()),
    tell: (at) => given<RecordDay>(running.tell(at)),
    plan: () => given<RecordIssue>(running.plan()),
    seal: (event, before) =>
      given<RecordEvent>(running.seal(JSON.stringify({ ...event, before: '', hash: '' }), before)),
    read: (kind, text) => given<{ si: number; echo: string }>(running.read(kind, text)),
    follow: (older, newer, proof) => void given(running.follow(older, newer, JSON.stringify(proof))),
    label: (text, at, coat) => given(running.label(text, at, coat)),
    laid: (coat, [x, y], at) => given(running.laid(coat, x, y, at)),
    judge: (task, value) => given(running.judge(task, value)),
    end: () => running.end(),
  }
}
