import { compare } from 'fast-json-patch'
import type { EditStep } from './client'

/**
 * What turns one document into another, as a JSON Patch (RFC 6902). Both are
 * compared as they are sent: a member without a value is not in the document.
 */
export function differences(from: object, to: object): EditStep[] {
  return compare(sent(from), sent(to)) as EditStep[]
}
function sent(document: object): object {
  return JSON.parse(JSON.stringify(document)) as object
}

type Tree = Record<string, unknown> | unknown[]

/**
 * The document with a JSON Patch applied. What the patch leaves alone is the
 * same object as before, so that whoever shows it has nothing to do.
 */
export function applied<T extends object>(document: T, steps: EditStep[]): T {
  const fresh = new Set<unknown>()
  const copy = (node: Tree): Tree => {
    if (fresh.has(node)) return node
    const own = Array.isArray(node) ? [...node] : { ...node }
    fresh.add(own)
    return own
  }
  let root = document as unknown as Tree
  for (const step of steps) {
    const keys = step.path
      .split('/')
      .slice(1)
      .map((k) => k.replaceAll('~1', '/').replaceAll('~0', '~'))
    const last = keys.pop()
    if (last === undefined) {
      root = step.value as Tree
      continue
    }
    root = copy(root)
    let at = root
    for (const key of keys) {
      const child = copy(get(at, key))
      set(at, key, child)
      at = child
    }
    if (step.op === 'remove') remove(at, last)
    else if (step.op === 'add' && Array.isArray(at))
      at.splice(last === '-' ? at.length : Number(last), 0, step.value)
    else set(at, last, step.value)
  }
  return root as unknown as T
}

function get(at: Tree, key: string): Tree {
  return (Array.isArray(at) ? at[Number(key)] : at[key]) as Tree
}

function set(at: Tree, key: string, value: unknown): void {
  if (Array.isArray(at)) at[Number(key)] = value
  else at[key] = value
}

function remove(at: Tree, key: string): void {
  if (Array.isArray(at)) at.splice(Number(key), 1)
  else Reflect.deleteProperty(at, key)
}
