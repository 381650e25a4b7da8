// Checks the seals of an exported record without the program that made it:
//
//     node verify-record.mjs record.json
//
// Each event is hashed as docs/record.md says, and must follow from the one before it on its
// device. It ends with status 1 where anything does not fit.
import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'

// RFC 8785: members sorted by their UTF-16 units, no white space, numbers and strings as
// ECMAScript writes them.
function canonical(value) {
  if (Array.isArray(value)) return `[${value.map(canonical).join(',')}]`
  if (value === null || typeof value !== 'object') return JSON.stringify(value)
  const members = Object.keys(value).sort()
  return `{${members.map((name) => `${JSON.stringify(name)}:${canonical(value[name])}`).join(',')}}`
}

const { events } = JSON.parse(readFileSync(process.argv[2], 'utf8'))
const devices = new Map()
for (const event of events) devices.set(event.device, [...(devices.get(event.device) ?? []), event])
let broken = 0
for (const [device, own] of devices) {
  let number = 1
  let before = ''
  for (const event of own.sort((a, b) => a.number - b.number)) {
    const { hash, name, ...sealed } = event
    const sum = createHash('sha256').update(canonical(sealed)).digest('hex')
    const faults = []
    if (event.version !== 2) faults.push('is of an earlier seal, which this script does not check')
    else if (sum !== hash) faults.push('was changed after it was logged')
    if (event.number !== number) faults.push(`comes where event ${number} is missing`)
    else if (event.before !== before) faults.push('does not follow from the one before it')
    for (const fault of faults) console.log(`${device}, event ${event.number} (${event.kind}, logged by ${name}): ${fault}`)
    broken += faults.length
    number = event.number + 1
    before = hash
  }
}
console.log(`${events.length} events of ${devices.size} devices; ${broken === 0 ? 'all of them fit' : `${broken} faults`}`)
process.exit(broken === 0 ? 0 : 1)
