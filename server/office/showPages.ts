/** Draws a submission page by page, in the reader's own browser. */
export const SHOW_PAGES = `
const place = document.getElementById('pages');
try {
  const pdfjs = await import('/office/pdfjs/pdf.mjs');
  pdfjs.GlobalWorkerOptions.workerSrc = '/office/pdfjs/pdf.worker.mjs';
  const pdf = await pdfjs.getDocument({ url: place.dataset.file, wasmUrl: '/workers/wasm/', standardFontDataUrl: '/workers/standard_fonts/', cMapUrl: '/workers/cmaps/', cMapPacked: true, isEvalSupported: false }).promise;
  place.replaceChildren();
  for (let number = 1; number <= pdf.numPages; number++) {
    const page = await pdf.getPage(number);
    const viewport = page.getViewport({ scale: 1200 / page.getViewport({ scale: 1 }).width });
    const canvas = document.createElement('canvas');
    canvas.width = viewport.width;
    canvas.height = viewport.height;
    canvas.setAttribute('role', 'img');
    canvas.setAttribute('aria-label', \`Page \${number} of \${pdf.numPages}\`);
    place.append(canvas);
    await page.render({ canvas, viewport }).promise;
  }
  place.dataset.ready = 'true';
} catch {
  const link = document.createElement('a');
  link.href = place.dataset.file;
  link.textContent = 'The pages cannot be drawn here. Open the file itself.';
  place.replaceChildren(link);
}
`;
