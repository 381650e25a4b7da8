const LONG_SIDE = 2048
const QUALITY = 0.82

/** A picture drawn anew on this device, small enough to wait for a network by the dozen. */
export async function smaller(file: File): Promise<Blob> {
  const picture = await createImageBitmap(file)
  const scale = Math.min(1, LONG_SIDE / Math.max(picture.width, picture.height))
  const canvas = new OffscreenCanvas(Math.round(picture.width * scale), Math.round(picture.height * scale))
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height)
  return canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY })
}
