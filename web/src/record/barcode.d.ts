/** Reads codes in pictures, where the browser can. */
interface Window {
  BarcodeDetector?: new () => { detect: (picture: ImageBitmap) => Promise<{ rawValue: string }[]> }
}
