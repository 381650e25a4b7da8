// Checks an exported record without the program that made it:
//
//     node verify-record.mjs record.json [key]
//
// Seals of events, hashes of plans, the log's entries, their proofs to the signed head, and the
// head's signature, as docs/record.md says. The key is that of a hand-over; those that the file
// names where none is given. It ends with status 1 where anything does not fit.
import { createHash, createPublicKey, verify } from 'node:crypto'
import { readFileSync } from 'node:fs'

const sha = (...parts) => parts.reduce((sum, part) => sum.update(part), createHash('sha256')).digest()
// RFC 8785: members sorted by their UTF-16 units, no white space, numbers and strings as
// ECMAScript writes them.
function canonical(value) {
  if (Array.isArray(value)) return `[${value.map(canonical).join(',')}]`
  if (value === null || typeof value !== 'object') return JSON.stringify(value)
  const members = Object.keys(value).sort()
  return `{${members.map((name) => `${JSON.stringify(name)}:${canonical(value[name])}`).join(',')}}`
}
// RFC 6962, 2.1: the root that a leaf and its path lead to, in a tree of so many leaves.
const join = (left, right) => sha(Buffer.from([1]), left, right)
function climb(at, size, leaf, path) {
  if (size === 1) return path.length ? undefined : leaf
  const half = 2 ** Math.floor(Math.log2(size - 1))
  const beside = path.at(-1)
  const own = at < half ? climb(at, half, leaf, path.slice(0, -1)) : climb(at - half, size - half, leaf, path.slice(0, -1))
  if (!own || !beside) return undefined
  return at < half ? join(own, beside) : join(beside, own)
}

const { issues, events, log } = JSON.parse(readFileSync(process.argv[2], 'utf8'))
let broken = 0
const fault = (text) => console.log(text, ++broken && '')
const entryOf = new Map((log?.entries ?? []).map((e) => [`${e.kind} ${e.item}`, e]))
const logged = (kind, item, hash) => entryOf.size && entryOf.get(`${kind} ${item}`)?.hash !== hash
const devices = new Map()
for (const event of events) devices.set(event.device, [...(devices.get(event.device) ?? []), event])
for (const [device, own] of devices) {
  let [number, before] = [1, '']
  for (const event of own.sort((a, b) => a.number - b.number)) {
    const { hash, name, received, ...sealed } = event
    const say = (text) => fault(`${device}, event ${event.number} (${event.kind}, logged by ${name}): ${text}`)
    if (!event.version) say('is of an earlier seal, which this script does not check')
    else if (sha(canonical(sealed)).toString('hex') !== hash) say('was changed after it was logged')
    else if (logged('event', event.id, hash)) say('is not in the log as it is here')
    if (event.number !== number) say(`comes where event ${number} is missing`)
    else if (event.before !== before) say('does not follow from the one before it')
    ;[number, before] = [event.number + 1, hash]
  }
}
for (const { hash, by, ...plan } of entryOf.size ? issues : [])
  if (sha(canonical(plan)).toString('hex') !== hash || logged('plan', String(plan.number), hash))
    fault(`Plan ${plan.number} was changed after it was issued`)
if (log?.head) {
  const [text, signatures] = log.head.split('\n\n')
  const lines = text.split('\n')
  const [size, of] = [Number(lines[1]), Number(lines[4]?.split(' ')[2])]
  const keys = process.argv[3] ? [process.argv[3]] : log.keys
  const signed = keys.some((key) => {
    const raw = Buffer.from(key.split('+').slice(2).join('+'), 'base64').subarray(1)
    const spki = Buffer.concat([Buffer.from('302a300506032b6570032100', 'hex'), raw])
    const line = signatures.split('\n').find((l) => l.startsWith(`— ${key.split('+')[0]} `)) ?? ''
    const signature = Buffer.from(line.split(' ')[2] ?? '', 'base64').subarray(4)
    return verify(null, `${text}\n`, createPublicKey({ key: spki, format: 'der', type: 'spki' }), signature)
  })
  if (!signed) fault('The head is not signed by the key')
  if (log.entries.length !== of) fault(`The head counts ${of} entries of this job, ${log.entries.length} are here`)
  log.entries.forEach((entry, n) => {
    const path = log.proofs[n].map((hash) => Buffer.from(hash, 'base64'))
    const root = climb(entry.number, size, sha(Buffer.from([0]), canonical(entry)), path)
    if (root?.toString('base64') !== lines[2]) fault(`Entry ${entry.number} of the log is not what the head covers`)
    const there = { event: events.some((e) => e.id === entry.item), plan: issues.some((i) => `${i.number}` === entry.item) }
    if (there[entry.kind] === false) fault(`The ${entry.kind} ${entry.item} is missing`)
  })
}
console.log(`${events.length} events of ${devices.size} devices; ${broken === 0 ? 'all of them fit' : `${broken} faults`}`)
process.exit(broken === 0 ? 0 : 1)
