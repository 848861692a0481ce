/** The S3-compatible server of the tests, which brings no types. */
declare module 's3rver' {
  export default class S3rver {
    constructor(options: Readonly<Record<string, unknown>>);
    run(): Promise<unknown>;
    close(): Promise<void>;
  }
}
