import { FotoplanError } from '../../core/errors';
import { loadBoundFile } from './boundFileStore';
import { fetchHandIn, loadHandIns } from './handInStore';
import { startLive, useLiveStore } from './liveStore';
import { loadProfile } from './profileStore';
import { services } from './services';

jest.mock('./boundFileStore', () => ({ loadBoundFile: jest.fn(() => Promise.resolve()) }));
jest.mock('./handInStore', () => ({ fetchHandIn: jest.fn(), loadHandIns: jest.fn(() => Promise.resolve()), takeFromDevice: jest.fn(() => Promise.resolve()) }));
jest.mock('./historyStore', () => ({ loadHistories: jest.fn() }));
jest.mock('./profileStore', () => ({ loadProfile: jest.fn(() => Promise.resolve()) }));
jest.mock('./services', () => ({ services: jest.fn() }));
jest.mock('./tabs', () => ({ listenToOtherTabs: jest.fn() }));

/** A line to the server that tests speak through. */
class Line {
  static readonly CLOSED = 2;
  static opened: Line[] = [];
  readyState = 1;
  private readonly heard = new Map<string, (event: { data: string }) => void>();
  constructor(readonly url: string) {
    Line.opened.push(this);
  }
  addEventListener(type: string, listener: (event: { data: string }) => void): void {
    this.heard.set(type, listener);
  }
  say(event: object): void {
    this.heard.get('message')!({ data: JSON.stringify(event) });
  }
  end(closed: boolean): void {
    this.readyState = closed ? Line.CLOSED : 0;
    this.heard.get('error')!({ data: '' });
  }
}
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

beforeAll(() => {
  Object.assign(globalThis, { EventSource: Line });
  startLive();
  startLive();
});
beforeEach(() => {
  jest.clearAllMocks();
  (fetchHandIn as jest.Mock).mockResolvedValue(undefined);
});
const line = (): Line => Line.opened[0]!;

describe('what other screens do', () => {
  it('is listened to on one line, however often it is begun', () => {
    expect(Line.opened.map(({ url }) => url)).toEqual(['/api/events']);
  });

  it('is fetched anew after the line was broken, and not when it is first there', async () => {
    line().say({ kind: 'open' });
    expect(loadHandIns).not.toHaveBeenCalled();
    line().say({ kind: 'open' });
    await settle();
    expect(loadHandIns).toHaveBeenCalledTimes(1);
    expect(loadProfile).toHaveBeenCalledTimes(1);
  });

  it('is fetched by what it was', () => {
    line().say({ kind: 'boundFile', handInId: 'h' });
    expect(loadBoundFile).toHaveBeenCalledWith('h');
    line().say({ kind: 'profile' });
    expect(loadProfile).toHaveBeenCalledTimes(1);
    const { screensChanged } = useLiveStore.getState();
    line().say({ kind: 'screens' });
    expect(useLiveStore.getState().screensChanged).toBe(screensChanged + 1);
  });

  it('that changes a hand-in while it is being fetched is fetched once more, not once for each change', async () => {
    let arrive: () => void = () => undefined;
    (fetchHandIn as jest.Mock).mockImplementationOnce(() => new Promise<void>((resolve) => (arrive = resolve)));
    for (let k = 0; k < 5; k++) line().say({ kind: 'handIn', handInId: 'h' });
    expect(fetchHandIn).toHaveBeenCalledTimes(1);
    arrive();
    await settle();
    expect(fetchHandIn).toHaveBeenCalledTimes(2);
  });

  it('that cannot be fetched does not end the listening', async () => {
    (fetchHandIn as jest.Mock).mockRejectedValueOnce(new Error('offline'));
    line().say({ kind: 'handIn', handInId: 'h' });
    await settle();
    line().say({ kind: 'handIn', handInId: 'h' });
    expect(fetchHandIn).toHaveBeenCalledTimes(2);
  });
});

describe('a screen that is cut off', () => {
  const answering = (error: Error | null): void => void (services as jest.Mock).mockResolvedValue({ api: { profile: () => (error === null ? Promise.resolve({}) : Promise.reject(error)) } });

  it('is none while the line is only broken, or the server only away', async () => {
    answering(new FotoplanError('SCREEN_CUT_OFF', 'This screen was cut off.'));
    line().end(false);
    await settle();
    expect(useLiveStore.getState().cutOff).toBe(false);
    answering(new Error('offline'));
    line().end(true);
    await settle();
    expect(useLiveStore.getState().cutOff).toBe(false);
  });

  it('knows so when the line is refused for that reason, or when it is told', async () => {
    answering(new FotoplanError('SCREEN_CUT_OFF', 'This screen was cut off.'));
    line().end(true);
    await settle();
    expect(useLiveStore.getState().cutOff).toBe(true);
    useLiveStore.setState({ cutOff: false });
    line().say({ kind: 'cutOff' });
    expect(useLiveStore.getState().cutOff).toBe(true);
  });
});
