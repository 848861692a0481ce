import fc from 'fast-check';
import { withWorkspace } from '../kernels/workspace';
import { startArithmeticEncoder } from './arithmeticEncoder';

it('codes a bare row as it codes the same bits one by one, in whatever state the context is', () => {
  const stretch = fc.record({
    bits: fc.array(fc.nat(1), { maxLength: 9 }),
    width: fc.oneof(fc.nat(5), fc.nat(40_000)),
  });
  fc.assert(
    fc.property(fc.array(stretch, { maxLength: 20 }), (list) => {
      withWorkspace((ws) => {
        const atOnce = startArithmeticEncoder(ws, 4, 400_000);
        // both at the same time: neither may disturb the other
        const single = startArithmeticEncoder(ws, 4, 400_000);
        const bare = ws.of(new Uint8Array(40_020)).at;
        for (const { bits, width } of list) {
          for (const bit of bits) for (const coder of [atOnce, single]) coder.code(0, bit);
          ws.kernels.codeRow(atOnce.coder, bare, bare, bare, 0, 0, width);
          for (let i = 0; i < width; i++) single.code(0, 0);
        }
        expect(single.finish()).toEqual(atOnce.finish());
      });
    }),
    { numRuns: 60 },
  );
});
