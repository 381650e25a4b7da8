/** What is read on a surface: °C, °C and a share. */
export interface Read {
  slab?: number
  air?: number
  humidity?: number
}
