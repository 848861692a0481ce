import fc from 'fast-check';
import { startArithmeticEncoder } from './arithmeticEncoder';

it('codes a run as it codes the same bits one by one, in whatever state the context is', () => {
  const runs = fc.array(fc.record({ context: fc.nat(3), bit: fc.nat(1), times: fc.oneof(fc.nat(5), fc.nat(40_000)) }), {
    maxLength: 30,
  });
  fc.assert(
    fc.property(runs, (list) => {
      const atOnce = startArithmeticEncoder(4, 400_000);
      for (const { context, bit, times } of list) atOnce.kernels.codeRun(context, bit, times);
      const coded = atOnce.finish();
      const single = startArithmeticEncoder(4, 400_000);
      for (const { context, bit, times } of list) for (let i = 0; i < times; i++) single.kernels.code(context, bit);
      expect(single.finish()).toEqual(coded);
    }),
    { numRuns: 60 },
  );
});
