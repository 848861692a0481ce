declare module 'tesseract.js/src/worker-script/node/index.js';
