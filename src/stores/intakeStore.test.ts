import { FotoplanError as mockFotoplanError } from '../../core/errors';
import { boundPages } from '../../core/handIn/handIn';
import { wholePhotoRecipe as mockRecipe } from '../../core/recipe/startRecipe';
import { createHandIn, useHandInStore } from './handInStore';
import { dismissIntake, takeIn, useIntakeStore } from './intakeStore';

jest.mock('../workers/pageWorkers', () => ({
  longWorker: {
    run: ({ fileName, finish }: { fileName: string; finish: 'asshot' | 'daylight' }) =>
      fileName.startsWith('bad')
        ? Promise.reject(new mockFotoplanError('PHOTO_CUT_SHORT', `“${fileName}” breaks off before its end.`))
        : Promise.resolve({ originalId: fileName.padEnd(64, '0'), width: 100, height: 141, recipe: mockRecipe(100, 141, finish) }),
  },
}));

const file = (name: string): File => Object.assign(new File(['x'], name), { arrayBuffer: () => Promise.resolve(new ArrayBuffer(1)) });

describe('taking photos in', () => {
  it('keeps their order, names the bad one, and lets the others through', async () => {
    const id = await createHandIn('Set 4');
    await Promise.all([takeIn(id, [file('1.jpg'), file('bad.jpg'), file('2.jpg')]), takeIn(id, [file('3.jpg')])]);
    expect(boundPages(useHandInStore.getState().handIns[id]!).map((page) => page.fileName)).toEqual(['1.jpg', '2.jpg', '3.jpg']);
    const [failed, ...rest] = useIntakeStore.getState().intakes;
    expect(rest).toEqual([]);
    expect(failed).toMatchObject({ fileName: 'bad.jpg', state: 'failed', problem: '“bad.jpg” breaks off before its end.' });
    dismissIntake(failed!.id);
    expect(useIntakeStore.getState().intakes).toEqual([]);
  });

  it('says so when a file cannot be read from where it is', async () => {
    const id = await createHandIn('Set 5');
    await takeIn(id, [Object.assign(new File(['x'], 'cloud.jpg'), { arrayBuffer: () => Promise.reject(new Error('gone')) })]);
    expect(useIntakeStore.getState().intakes[0]!.problem).toContain('Copy it to this device first');
  });
});
