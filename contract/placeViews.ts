/** What lies in a folder of the locker. */
export interface LockerFolderView {
  readonly path: string;
  readonly folders: readonly string[];
  readonly files: readonly LockerFileView[];
}
export interface LockerFileView {
  readonly id: string;
  readonly path: string;
  readonly name: string;
  readonly bytes: number;
  readonly sha256: string;
  readonly atMs: number;
}
/** A mail that went out, with its one attachment. */
export interface MessageView {
  readonly id: string;
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly name: string;
  readonly bytes: number;
  readonly sha256: string;
  readonly atMs: number;
}
