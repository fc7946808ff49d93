import { getDocument, GlobalWorkerOptions } from 'pdfjs-dist'
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url'

GlobalWorkerOptions.workerSrc = worker

/** A PDF that can be drawn page by page. Nothing in it is run: scripts are off, and it fetches nothing. */
export async function openPdf(content: ArrayBuffer) {
  const task = getDocument({ data: content, enableXfa: false, disableFontFace: true })
  const document = await task.promise
  return {
    pages: document.numPages,
    close: () => task.destroy(),
    /** Draws a page, numbered from one, as wide as the canvas is shown. */
    async draw(number: number, canvas: HTMLCanvasElement, width: number) {
      const page = await document.getPage(number)
      const viewport = page.getViewport({ scale: width / page.getViewport({ scale: 1 }).width })
      canvas.width = viewport.width
      canvas.height = viewport.height
      await page.render({ canvas, viewport }).promise
    },
  }
}
