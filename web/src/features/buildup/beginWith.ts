import type { PlanFile, Surface, SystemLine } from '../../api/client'
import { newId } from '../job/blank'

/** Lays a system on a surface in place of its coats, and brings its sheets and media into the file. */
export function beginWith(line: SystemLine, s: Surface, file: PlanFile): void {
  s.coats = line.system.coats.map((c) => ({ ...c, id: newId() }))
  file.products.push(...line.products.filter((p) => !file.products.some((o) => o.id === p.id)))
  const media = file.media ?? []
  media.push(...line.media.filter((m) => !media.some((o) => o.id === m.id)))
  if (media.length > 0) file.media = media
}
