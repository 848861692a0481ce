import { reliabilityOf } from './reliability';

const said = (confidence: number, right: number, wrong: number) => [
  ...Array.from({ length: right }, () => ({ confidence, right: true })),
  ...Array.from({ length: wrong }, () => ({ confidence, right: false })),
];

describe('reliabilityOf', () => {
  it('has no error where as much is right as was said', () => {
    expect(reliabilityOf([...said(0.75, 3, 1), ...said(0.25, 1, 3)]).expectedError).toBeCloseTo(0, 10);
  });

  it('weighs what is said too surely by how often it is said', () => {
    const { bins, expectedError } = reliabilityOf([...said(0.95, 6, 4), ...said(0.15, 0, 10), ...said(1, 20, 0)]);
    expect(bins.map(({ count }) => count)).toEqual([10, 30]);
    expect(bins[1]!.shareRight).toBeCloseTo(26 / 30, 10);
    expect(expectedError).toBeCloseTo((10 * 0.15 + 30 * (29.5 / 30 - 26 / 30)) / 40, 10);
  });
});
