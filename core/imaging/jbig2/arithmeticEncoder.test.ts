import fc from 'fast-check';
import { withWorkspace } from '../kernels/workspace';
import { startArithmeticEncoder } from './arithmeticEncoder';

it('codes a run as it codes the same bits one by one, in whatever state the context is', () => {
  const runs = fc.array(fc.record({ context: fc.nat(3), bit: fc.nat(1), times: fc.oneof(fc.nat(5), fc.nat(40_000)) }), {
    maxLength: 30,
  });
  fc.assert(
    fc.property(runs, (list) => {
      withWorkspace((ws) => {
        const atOnce = startArithmeticEncoder(ws, 4, 400_000);
        // both at the same time: neither may disturb the other
        const single = startArithmeticEncoder(ws, 4, 400_000);
        for (const { context, bit, times } of list) {
          atOnce.codeRun(context, bit, times);
          for (let i = 0; i < times; i++) single.code(context, bit);
        }
        expect(single.finish()).toEqual(atOnce.finish());
      });
    }),
    { numRuns: 60 },
  );
});
