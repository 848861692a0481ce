import { FotoplanError as mockError } from '../../core/errors';
import { PLAIN_BINDING } from '../../core/handIn/bindSettings';
import type { HandIn } from '../../core/handIn/handIn';
import { wholePhotoRecipe } from '../../core/recipe/plainRecipe';
import { madeFromKey } from '../../core/handIn/madeFrom';
import { bindHandIn, loadBoundFile, useBoundFileStore } from './boundFileStore';
import { change, useHandInStore } from './handInStore';
import { services } from './services';

const mockRun = jest.fn();
jest.mock('../workers/pageWorkers', () => ({ longWorker: { run: (...args: unknown[]) => mockRun(...args) as unknown }, previewWorker: { rest: () => undefined }, secondWorker: { run: (...args: unknown[]) => mockRun(...args) as unknown } }));
jest.mock('../pictures/loadOriginal', () => ({ loadOriginal: () => Promise.resolve(new Blob(['photo'])) }));

const handIn: HandIn = {
  id: 'hand-in-1',
  title: 'Set 4: heights',
  paper: 'auto',
  binding: PLAIN_BINDING,
  assignmentId: null,
  createdAtMs: 1,
  changedAtMs: 1,
  removed: false,
  pages: [{ id: 'page-1', originalId: 'a', fileName: 'a.jpg', width: 100, height: 141, pdfPage: null, takenAtMs: null, leftOut: false, removed: false, recipe: wholePhotoRecipe(100, 141, 'daylight') }],
};
const assembled = { pdf: new Blob(['%PDF']), sha256: 'f'.repeat(64) };
const coded = { coding: 'jpeg', bytes: new Uint8Array(1234), width: 100, height: 141 };
const answer = (request: { kind: string }): Promise<unknown> => Promise.resolve(request.kind === 'code' ? coded : assembled);

describe('binding', () => {
  it('keeps the file on this device under a safe name and sends it up behind the rest', async () => {
    mockRun.mockImplementation(answer);
    await bindHandIn(handIn);
    const file = useBoundFileStore.getState().files['hand-in-1']!;
    expect(file).toMatchObject({ name: 'Set 4 heights.pdf', pageBytes: [1234], madeFrom: madeFromKey(handIn) });
    const { db } = await services();
    expect((await db.getAll('outbox')).at(-1)).toEqual({ kind: 'boundFile', handInId: 'hand-in-1' });
    // binding again codes nothing again
    const before = mockRun.mock.calls.length;
    await bindHandIn(handIn);
    expect(mockRun.mock.calls.slice(before).map(([request]) => (request as { kind: string }).kind)).toEqual(['assemble']);
    useBoundFileStore.setState({ files: {} });
    await loadBoundFile('hand-in-1');
    expect(useBoundFileStore.getState().files['hand-in-1']!.sha256).toBe(file.sha256);
  });

  it('knows when its file is out of date: a turn, the paper or the name change it, a removed page too', () => {
    const key = madeFromKey(handIn);
    const [page] = handIn.pages;
    expect(madeFromKey({ ...handIn, changedAtMs: 99 })).toBe(key);
    for (const changed of [{ ...handIn, paper: 'a4' as const }, { ...handIn, title: 'Other' }, { ...handIn, pages: [{ ...page!, removed: true }] }, { ...handIn, pages: [{ ...page!, recipe: { ...page!.recipe, quarterTurns: 1 as const } }] }]) {
      expect(madeFromKey(changed)).not.toBe(key);
    }
  });

  it('binds by what was wanted last, though the screen does not show it yet', async () => {
    mockRun.mockImplementation(answer);
    useHandInStore.setState({ handIns: { 'hand-in-1': handIn } });
    const writing = change({ kind: 'changeHandIn', handInId: 'hand-in-1', title: 'A better name' });
    await bindHandIn(handIn);
    await writing;
    expect(useBoundFileStore.getState().files['hand-in-1']!.name).toBe('A better name.pdf');
    useHandInStore.setState({ handIns: {} });
  });

  it('shows why it failed, and shows nothing when it was stopped', async () => {
    const other = { ...handIn, paper: 'letter' as const };
    mockRun.mockImplementation(answer).mockRejectedValueOnce(new mockError('PHOTO_UNREADABLE', '“a.jpg” is damaged inside.'));
    await bindHandIn(other);
    expect(useBoundFileStore.getState().bindings['hand-in-1']).toEqual({ state: 'failed', problem: '“a.jpg” is damaged inside.', parts: 0 });
    mockRun.mockRejectedValueOnce(new mockError('CANCELLED', 'stopped'));
    await bindHandIn(other);
    expect(useBoundFileStore.getState().bindings['hand-in-1']).toEqual({ state: 'idle' });
  });
});
