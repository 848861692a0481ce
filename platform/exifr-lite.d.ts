declare module 'exifr/dist/lite.umd.js' {
  export { parse } from 'exifr';
}
