/** What a defect looks like, drawn in a box of 72 by 44: own drawings, so that the right one is chosen. */
const lines = (...paths: string[]): string => paths.map((d) => `<path d="${d}"/>`).join('')
const dots = (r: number, ...at: [number, number][]): string =>
  at.map(([x, y]) => `<circle cx="${x}" cy="${y}" r="${r}"/>`).join('')
const fills = (...paths: string[]): string => paths.map((d) => `<path class="f" d="${d}"/>`).join('')
const rings = (...at: [number, number, number][]): string =>
  at.map(([x, y, r]) => `<circle class="o" cx="${x}" cy="${y}" r="${r}"/>`).join('')

export const sketches: Record<string, string> = {
  soft: fills('M20 24q6-12 18-6t14 4q2 10-12 10t-20-8z') + lines('M30 22l4 8M38 20l4 9'),
  bubbles: rings([16, 14, 5], [34, 24, 7], [54, 16, 4], [22, 33, 3], [48, 34, 5]),
  hot: lines('M22 18h28l-4 22H26z') + lines('M30 12q-4-4 0-8M38 12q-4-4 0-8M46 12q-4-4 0-8'),
  lap: lines('M36 4q-4 10 0 18t0 18', 'M39 4q-4 10 0 18t0 18'),
  bands: fills('M4 4h12v36H4z', 'M30 4h14v36H30z', 'M58 4h10v36H58z'),
  peeling: lines('M4 34h40', 'M44 34q4-22 20-18q-6 4-8 18') + fills('M44 34q4-22 20-18q-6 4-8 18z'),
  haze: fills('M10 26q6-16 22-10t24 0q10 10-6 16t-26 2-14-8z') + dots(1.2, [14, 12], [52, 10], [60, 34]),
  fisheyes: rings([18, 16, 6], [46, 28, 8]) + dots(1.6, [18, 16], [46, 28]),
  runs: lines('M8 6h56', 'M18 6v18q0 6 3 6t3-6V6', 'M44 6v26q0 6 3 6t3-6V6'),
  specks: dots(1.4, [12, 12], [24, 30], [38, 16], [50, 34], [60, 12], [32, 36]) + lines('M44 24q6-4 10 0'),
  bare: lines('M4 40V4h64') + fills('M4 4h64v8H14v28H4z'),
  amber: fills('M4 4h64v36H4z') + lines('M36 12v-6M36 38v-6M24 22h-6M54 22h-6M28 14l-4-4M48 34l-4-4'),
  bond: lines('M4 30h64') + fills('M24 30q12-14 24 0z') + lines('M24 26q12-14 24 0'),
  through: fills('M26 4h6v36h-6z') + lines('M4 22h18M36 22h32'),
  undried: lines('M4 34h64') + lines('M30 34q2-14 6-22 4 8 6 22'),
  bumps: lines('M4 34h6l4-8 4 8h8l3-5 3 5h8l5-11 5 11h6l3-6 3 6h6'),
  cracks: lines('M8 40l8-10-4-8 12-6 2-10M24 16l14 4 4 10 14 6'),
  osmosis: lines('M4 34h64') + lines('M12 34q8-20 18 0M40 34q7-16 16 0') + dots(1.2, [21, 29], [48, 30]),
  ghosting: lines('M4 14h64M4 30h64') + '<path class="d" d="M36 4v36M40 4v36"/>',
  tyres: lines('M52 22a16 16 0 1 1-32 0 16 16 0 0 1 32 0z') + fills('M26 38h20l6 4H20z'),
  crazing: lines(
    'M4 12l12 4 8-10 10 8 12-6 8 8 12-4M16 16l-4 14 12 10M34 14l2 14-12 12M46 8l6 20-16 0M54 16l14 14-16-2',
  ),
  peel: rings(
    [12, 12, 4],
    [24, 12, 4],
    [36, 12, 4],
    [48, 12, 4],
    [60, 12, 4],
    [18, 24, 4],
    [30, 24, 4],
    [42, 24, 4],
    [54, 24, 4],
    [12, 36, 4],
    [24, 36, 4],
    [36, 36, 4],
    [48, 36, 4],
    [60, 36, 4],
  ),
  short: fills(
    'M8 8l6-2 2 6-6 2zM26 14l6 2-2 6-6-2zM52 10l6-2 2 6-6 2zM14 30l6 2-2 6-6-2zM44 30l6-2 2 6-6 2z',
  ),
  shade: fills('M4 4h32v36H4z') + lines('M36 4v36M4 4h64v36H4z'),
  solvent: lines('M4 36h64') + lines('M16 30q-4-4 0-8t0-8M36 30q-4-4 0-8t0-8M56 30q-4-4 0-8t0-8'),
  craters: rings([22, 22, 9], [52, 16, 5]) + fills('M17 22a5 5 0 0 0 10 0z', 'M49 16a3 3 0 0 0 6 0z'),
  cloudy:
    fills('M4 16h64v24H4z') + dots(1, [12, 22], [20, 30], [28, 22], [38, 34], [46, 24], [56, 30], [62, 20]),
  ring: rings([36, 22, 14]) + '<circle class="d" cx="36" cy="22" r="17"/>',
  tape: fills('M28 4h16v36H28z') + lines('M30 16q6 4 12 0M30 28q6 4 12 0'),
}
