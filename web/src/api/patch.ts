import { compare } from 'fast-json-patch'
import type { EditStep } from './client'

/**
 * What turns one document into another, as a JSON Patch (RFC 6902). Both are compared as they are
 * sent: a member without a value is not in the document. What an edit left alone is the same
 * object in both, and is not looked at: the cost is that of what changed.
 */
export function differences(from: object, to: object, at = ''): EditStep[] {
  if (from === to) return []
  if (Array.isArray(from) !== Array.isArray(to)) return [{ op: 'replace', path: at, value: sent(to) }]
  if (Array.isArray(from) && Array.isArray(to) && from.length !== to.length)
    return compare(sent(from), sent(to)).map((step) => ({ ...step, path: at + step.path }) as EditStep)
  const before = from as Record<string, unknown>
  const after = to as Record<string, unknown>
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((key): EditStep[] => {
    const was = before[key]
    const now = after[key]
    const path = `${at}/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`
    if (was === now) return []
    if (now === undefined) return [{ op: 'remove', path }]
    if (was === undefined) return [{ op: 'add', path, value: sent(now) }]
    if (isTree(was) && isTree(now)) return differences(was, now, path)
    return [{ op: 'replace', path, value: sent(now) }]
  })
}
const isTree = (value: unknown): value is object => typeof value === 'object' && value !== null
function sent<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T
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
