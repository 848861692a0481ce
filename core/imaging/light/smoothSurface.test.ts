import { smoothSurface } from './smoothSurface';

it('goes as the light does, past a reflection, a shadow and what is not known', () => {
  const [across, down] = [40, 50];
  const light = (x: number, y: number): number => Math.exp(0.3 * (x / across) - 0.5 * (y / down) ** 2);
  const inBox = (k: number, left: number, top: number): boolean =>
    k % across >= left && k % across < left + 10 && k / across >= top && k / across < top + 12;
  const known = Uint8Array.from({ length: across * down }, (_, k) => Number(!inBox(k, 0, 38)));
  const values = Float32Array.from(known, (one, k) => {
    const factor = inBox(k, 20, 10) ? 1.5 : inBox(k, 5, 20) ? 0.6 : 1;
    return one === 0 ? 1e-6 : factor * light(k % across, Math.floor(k / across));
  });
  smoothSurface(values, known, across, down).forEach((found, k) =>
    expect(found / light(k % across, Math.floor(k / across))).toBeCloseTo(1, 1),
  );
});
