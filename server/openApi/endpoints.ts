import { BoundFileQuery } from '../../contract/boundFileQuery';
import { ChangesQuery } from '../../contract/changesQuery';
import { HandInView } from '../../contract/handInView';
import { OriginalsBody } from '../../contract/originalsBody';
import { LinkBody, ProfileBody } from '../../contract/profileBody';
import { DeleteEverythingBody, RecoverBody } from '../../contract/recoverBody';
import {
  AppliedView,
  BoundFilesView,
  BoundFileView,
  ChangesView,
  JoinView,
  KeptOriginalView,
  LinkCodeView,
  LinkedView,
  OriginalsView,
  PracticePhotosView,
  ProfileAnswer,
  RecoveredView,
  RecoveryCodeView,
  RecoveryView,
  ScreensView,
  UploadView,
} from '../../contract/views';

type ContractClass = new () => object;

/** One thing that can be asked of the server, under /api. */
export interface Endpoint {
  readonly method: 'get' | 'put' | 'post' | 'delete';
  /** As Express has it, with :names. */
  readonly path: string;
  readonly summary: string;
  readonly query?: ContractClass;
  /** A class is sent as JSON; a media type as raw bytes. */
  readonly body?: ContractClass | string;
  /** By status: a class comes as JSON, a media type as bytes, null as nothing. Refusals are the same everywhere. */
  readonly answers: Readonly<Record<number, ContractClass | string | null>>;
}

/** A list of operations is described with every kind that there is. */
export class OperationsBody {}

/** Everything under /api, in the order in which a device comes to it. */
export const ENDPOINTS: readonly Endpoint[] = [
  {
    method: 'get',
    path: '/changes',
    summary: 'What is so now of all that changed after change number `since`; 0 asks for everything.',
    query: ChangesQuery,
    answers: { 200: ChangesView },
  },
  {
    method: 'get',
    path: '/events',
    summary: 'A stream that tells at once when something has changed; what, the device asks for with /changes.',
    answers: { 200: 'text/event-stream' },
  },
  {
    method: 'get',
    path: '/hand-ins/:handInId',
    summary: 'One hand-in with its pages.',
    answers: { 200: HandInView },
  },
  {
    method: 'post',
    path: '/operations',
    summary: 'Applies up to 200 operations in order, all or none. One that was applied before is not applied again.',
    body: OperationsBody,
    answers: { 200: AppliedView },
  },
  {
    method: 'post',
    path: '/originals',
    summary: 'Which of these originals the server holds, byte for byte.',
    body: OriginalsBody,
    answers: { 200: OriginalsView },
  },
  {
    method: 'put',
    path: '/originals/:sha256',
    summary: 'Keeps a whole photo or PDF under the SHA-256 of its bytes.',
    body: 'application/octet-stream',
    answers: { 201: KeptOriginalView },
  },
  {
    method: 'get',
    path: '/originals/:sha256',
    summary: 'An original as it was sent.',
    answers: { 200: 'image/*', 304: null },
  },
  {
    method: 'get',
    path: '/originals/:sha256/parts',
    summary: 'Which parts of an upload have arrived, so that only the others need to be sent.',
    answers: { 200: UploadView },
  },
  {
    method: 'put',
    path: '/originals/:sha256/parts/:seq',
    summary: 'Keeps one part of an upload, numbered from 0; each has 1 MiB but for the last.',
    body: 'application/octet-stream',
    answers: { 204: null },
  },
  {
    method: 'post',
    path: '/originals/:sha256/done',
    summary: 'Puts the parts together, checks the SHA-256 of the whole and keeps it.',
    answers: { 200: KeptOriginalView, 201: KeptOriginalView },
  },
  {
    method: 'put',
    path: '/originals/:sha256/pictures/:page/:size',
    summary: 'Keeps a small picture of an original’s page (`size` is thumbnail or preview).',
    body: 'image/jpeg',
    answers: { 204: null },
  },
  {
    method: 'get',
    path: '/originals/:sha256/pictures/:page/:size',
    summary: 'A small picture of an original’s page.',
    answers: { 200: 'image/jpeg', 304: null },
  },
  {
    method: 'put',
    path: '/hand-ins/:handInId/bound-files/:id',
    summary: 'Keeps a bound PDF of a hand-in.',
    query: BoundFileQuery,
    body: 'application/pdf',
    answers: { 201: BoundFileView },
  },
  {
    method: 'get',
    path: '/hand-ins/:handInId/bound-files',
    summary: 'The bound files of a hand-in, newest first.',
    answers: { 200: BoundFilesView },
  },
  {
    method: 'get',
    path: '/bound-files/:id',
    summary: 'A bound PDF.',
    answers: { 200: 'application/pdf' },
  },
  {
    method: 'get',
    path: '/screens',
    summary: 'The screens that are linked to this work.',
    answers: { 200: ScreensView },
  },
  {
    method: 'delete',
    path: '/screens/:screenId',
    summary: 'Unlinks a screen; what came along with it leaves with it.',
    answers: { 204: null },
  },
  {
    method: 'post',
    path: '/link-codes',
    summary: 'A code by which another screen can be linked, good for five minutes.',
    answers: { 201: LinkCodeView },
  },
  {
    method: 'post',
    path: '/link/look',
    summary: 'Whose work a code would join, before it is used.',
    body: LinkBody,
    answers: { 200: JoinView },
  },
  {
    method: 'post',
    path: '/link',
    summary: 'Links this screen to the work of the screen that shows the code.',
    body: LinkBody,
    answers: { 200: LinkedView },
  },
  { method: 'get', path: '/profile', summary: 'Who hands in.', answers: { 200: ProfileAnswer } },
  {
    method: 'put',
    path: '/profile',
    summary: 'Sets who hands in.',
    body: ProfileBody,
    answers: { 200: ProfileAnswer },
  },
  {
    method: 'get',
    path: '/recovery-code',
    summary: 'When the recovery code was made; the code itself is told only once.',
    answers: { 200: RecoveryView },
  },
  {
    method: 'post',
    path: '/recovery-code',
    summary: 'Makes a recovery code; an older one is void.',
    answers: { 201: RecoveryCodeView },
  },
  {
    method: 'post',
    path: '/recover',
    summary: 'Opens the work of a recovery code on this screen.',
    body: RecoverBody,
    answers: { 200: RecoveredView },
  },
  {
    method: 'post',
    path: '/delete-everything',
    summary: 'Deletes all of this person’s work at once.',
    body: DeleteEverythingBody,
    answers: { 204: null },
  },
  {
    method: 'get',
    path: '/practice-photos',
    summary: 'Photos to practise with; none outside the demo.',
    answers: { 200: PracticePhotosView },
  },
  {
    method: 'get',
    path: '/practice-table',
    summary: 'The pictures of the practice table; none outside the demo.',
    answers: { 200: PracticePhotosView },
  },
  {
    method: 'get',
    path: '/openapi.json',
    summary: 'This description.',
    answers: { 200: 'application/json' },
  },
];
