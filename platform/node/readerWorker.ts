// The OCR engine's thread. Its libraries write remarks for their makers to standard error, which is the person's.
console.error = () => undefined;
await import('tesseract.js/src/worker-script/node/index.js');
