import { fuzz } from './fuzz';

it('what is malformed is refused in our own words, never with a crash, a hang or a 500', async () => {
  const reports = await fuzz(0.04);
  expect(reports.every(({ refused }) => refused > 0)).toBe(true);
}, 120_000);
