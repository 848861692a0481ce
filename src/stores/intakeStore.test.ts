import { FotoplanError as mockFotoplanError } from '../../core/errors';
import { boundPages } from '../../core/handIn/handIn';
import { useHandInStore } from './handInStore';
import { createHandIn } from './pageActions';
import { dismissIntake, takeIn, useIntakeStore } from './intakeStore';

jest.mock('../workers/pageWorkers', () => ({
  longWorker: {
    run: ({ fileName }: { fileName: string }) =>
      fileName.startsWith('bad')
        ? Promise.reject(new mockFotoplanError('PHOTO_CUT_SHORT', `“${fileName}” breaks off before its end.`))
        : Promise.resolve({ originalId: fileName.padEnd(64, '0'), isPdf: fileName.endsWith('pdf'), pages: Array.from({ length: fileName.endsWith('pdf') ? 2 : 1 }, () => ({ width: 100, height: 141 })) }),
  },
}));

const file = (name: string): File => Object.assign(new File(['x'], name), { arrayBuffer: () => Promise.resolve(new ArrayBuffer(1)) });
const pagesOf = (id: string) => boundPages(useHandInStore.getState().handIns[id]!);

describe('taking photos in', () => {
  it('keeps their order, names the bad one, and lets the others through', async () => {
    const id = await createHandIn('Set 4');
    await Promise.all([takeIn(id, [file('1.jpg'), file('bad.jpg'), file('2.jpg')]), takeIn(id, [file('3.jpg')])]);
    expect(pagesOf(id).map((page) => page.fileName)).toEqual(['1.jpg', '2.jpg', '3.jpg']);
    const [failed, ...rest] = useIntakeStore.getState().intakes;
    expect(rest).toEqual([]);
    expect(failed).toMatchObject({ fileName: 'bad.jpg', state: 'failed', problem: '“bad.jpg” breaks off before its end.' });
    dismissIntake(failed!.id);
    expect(useIntakeStore.getState().intakes).toEqual([]);
  });

  it('keeps a photo before its paper has been looked for, and every page of a PDF untouched', async () => {
    const id = await createHandIn('Set 6');
    await takeIn(id, [file('scan.jpg'), file('handout.pdf')]);
    expect(pagesOf(id).map((page) => [page.fileName, page.pdfPage, page.recipe.outline.by, page.recipe.finish])).toEqual([
      ['scan.jpg', null, 'pending', 'daylight'],
      ['handout.pdf', 0, 'whole', 'asshot'],
      ['handout.pdf', 1, 'whole', 'asshot'],
    ]);
  });

  it('orders numbered names by number, and puts them behind the page asked for', async () => {
    const id = await createHandIn('Set 7');
    await takeIn(id, [file('first.jpg'), file('last.jpg')]);
    await takeIn(id, [file('p10.jpg'), file('p9.jpg'), file('p2.jpg')], { afterPageId: pagesOf(id)[0]!.id });
    expect(pagesOf(id).map((page) => page.fileName)).toEqual(['first.jpg', 'p2.jpg', 'p9.jpg', 'p10.jpg', 'last.jpg']);
  });

  it('points out the same photo twice, and adds it again only when asked', async () => {
    const id = await createHandIn('Set 8');
    await takeIn(id, [file('curve.jpg')]);
    await takeIn(id, [file('curve.jpg')]);
    expect(pagesOf(id)).toHaveLength(1);
    const note = useIntakeStore.getState().intakes.find(({ handInId }) => handInId === id)!;
    expect(note).toMatchObject({ state: 'twice', problem: '“curve.jpg” is page 1 already. It was not added again.' });
    note.again!();
    await takeIn(id, []);
    expect(pagesOf(id)).toHaveLength(2);
    expect(useIntakeStore.getState().intakes.filter(({ handInId }) => handInId === id)).toEqual([]);
  });

  it('says so when a file cannot be read from where it is', async () => {
    const id = await createHandIn('Set 5');
    await takeIn(id, [Object.assign(new File(['x'], 'cloud.jpg'), { arrayBuffer: () => Promise.reject(new Error('gone')) })]);
    expect(useIntakeStore.getState().intakes[0]!.problem).toContain('Copy it to this device first');
  });
});
