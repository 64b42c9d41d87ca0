import type { ReadResult } from 'zxing-wasm/reader'

/** Reads codes off dots; fetched when it is first wanted. */
let reading: Promise<(dots: ImageData) => Promise<ReadResult[]>> | undefined

async function load() {
  const [{ prepareZXingModule, readBarcodes }, { default: address }] = await Promise.all([
    import('zxing-wasm/reader'),
    import('zxing-wasm/reader/zxing_reader.wasm?url'),
  ])
  await prepareZXingModule({ overrides: { locateFile: () => address }, fireImmediately: true })
  return (dots: ImageData) => readBarcodes(dots, { maxNumberOfSymbols: 100, textMode: 'Plain' })
}

/** A picture of a label has all its codes in so many dots along its longer side. */
const mostDots = 3000

async function dotsOf(file: Blob): Promise<ImageData> {
  const picture = await createImageBitmap(file)
  const scale = Math.min(1, mostDots / Math.max(picture.width, picture.height))
  const width = Math.max(1, Math.round(picture.width * scale))
  const height = Math.max(1, Math.round(picture.height * scale))
  const canvas = document.createElement('canvas')
  canvas.width = width
  canvas.height = height
  const draw = canvas.getContext('2d')
  if (!draw) throw new Error('there is no canvas')
  draw.drawImage(picture, 0, 0, width, height)
  return draw.getImageData(0, 0, width, height)
}

/**
 * Reads all codes in a picture that a camera took, as a scanner sends them: with the identifier of their symbology
 * (ISO/IEC 15424) before them. It fails where the file is no picture.
 */
export async function readPicture(file: Blob): Promise<string[]> {
  const dots = await dotsOf(file)
  reading ??= load()
  try {
    const results = await (await reading)(dots)
    return results.filter((r) => r.isValid && r.text).map((r) => r.symbologyIdentifier + r.text)
  } catch (failed) {
    reading = undefined // it is fetched anew
    throw failed
  }
}
