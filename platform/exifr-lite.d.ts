declare module 'exifr/dist/lite.umd.js' {
  import type { parse } from 'exifr';
  const exifr: { readonly parse: typeof parse };
  export default exifr;
}
