/** Whether the browser reads codes from pictures. */
export const scans = 'BarcodeDetector' in window

/** Reads the code in a picture that was taken of a label; throws a sentence where there is none. */
export async function scanned(event: Event): Promise<string | undefined> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  const Detector = window.BarcodeDetector
  if (!file || !Detector) return undefined
  const found = await new Detector().detect(await createImageBitmap(file))
  input.value = ''
  if (!found[0]) throw new Error('No code could be read in this picture. Take it nearer, or type it.')
  return found[0].rawValue
}
