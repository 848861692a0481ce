import { withWorkspace, type FloatSlot, type Workspace } from './workspace';

const MEGABYTE = 1 << 20;

describe('a workspace', () => {
  it('gives out slots that keep what they hold, however much is asked for after them', () => {
    withWorkspace((ws) => {
      const first = ws.of(Float32Array.of(1, 2, 3));
      for (let k = 0; k < 4; k++) ws.u8(16 * MEGABYTE).fill(0xa5);
      expect(Array.from(first.copy())).toEqual([1, 2, 3]);
      first.set([7], 1);
      expect(Array.from(first.copy(1))).toEqual([7, 3]);
    });
  });

  it('takes its slots back at its end, and they say so', () => {
    let kept: FloatSlot | null = null;
    withWorkspace((ws) => (kept = ws.f32(4)));
    const slot = kept!;
    for (const use of [() => slot.at, () => slot.copy(), () => slot.set([1]), () => slot.view((s) => s[0])])
      expect(use).toThrow('The workspace of this slot has ended.');
  });

  it('takes them back where the work throws, too', () => {
    const place = (): number => withWorkspace((ws) => ws.f32(1).at);
    const before = place();
    expect(() =>
      withWorkspace((ws) => {
        ws.f32(MEGABYTE);
        throw new Error('broken');
      }),
    ).toThrow('broken');
    expect(place()).toBe(before);
  });

  it('keeps its slots while another is opened within it, and gives out none before that ends', () => {
    withWorkspace((outer) => {
      const slot = outer.of(Int32Array.of(5, 6));
      withWorkspace((inner) => {
        expect(() => outer.f32(1)).toThrow('A workspace within this one is still open.');
        inner.u8(MEGABYTE).fill(9);
      });
      expect(Array.from(slot.copy())).toEqual([5, 6]);
      outer.f32(1);
    });
  });

  it('cannot be asked for more while a slot is viewed, nor after its end', () => {
    let kept: Workspace | null = null;
    withWorkspace((ws) => {
      kept = ws;
      const slot = ws.f32(1);
      slot.view(() => expect(() => ws.f32(1)).toThrow('Slots are being viewed'));
      ws.f32(1);
    });
    expect(() => kept!.f32(1)).toThrow('This workspace has ended.');
  });

  it('is for work that waits for nothing', () => {
    expect(() => withWorkspace(() => Promise.resolve(1))).toThrow('cannot wait');
  });

  it('copies no more than a slot has', () => {
    withWorkspace((ws) => {
      const slot = ws.of(Uint8Array.of(1, 2));
      const target = new Uint8Array(4);
      slot.copyInto(target, 1);
      expect(Array.from(target)).toEqual([0, 1, 2, 0]);
      expect(() => slot.copyInto(target, 0, 3)).toThrow(RangeError);
      expect(() => slot.set([1, 2, 3])).toThrow('out of bounds');
    });
  });
});
