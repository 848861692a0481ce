import 'fake-indexeddb/auto';
import { playHistory } from './history';

const HISTORIES = 120;

describe('two devices and a server, whatever goes wrong between them', () => {
  it(`end with every page there once and all agreeing, in ${HISTORIES} histories`, async () => {
    const problems: string[] = [];
    for (let seed = 1; seed <= HISTORIES; seed++) {
      const problem = await playHistory(seed);
      if (problem !== null) problems.push(`${seed}: ${problem}`);
    }
    expect(problems).toEqual([]);
  }, 600_000);
});
