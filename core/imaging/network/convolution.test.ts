import { convolve, convolveDepthwise, createNetwork, pointwise, type StoredLayer } from './convolution';

import { withWorkspace } from '../kernels/workspace';

/** Whole numbers as a network's weights are stored, scale 1. */
const stored = (weights: readonly number[], bias: readonly number[]): StoredLayer => ({
  w: btoa(String.fromCharCode(...weights.map((w) => w & 255))),
  s: bias.map(() => 1),
  b: bias,
});

const HEIGHT = 4;
/** One group of sixteen places, one of four, and two more: each branch of the kernels. */
const WIDTH = 22;
const noise = (count: number): Float32Array => Float32Array.from({ length: count }, (_, i) => ((i * 37) % 19) - 9);

/** The same by the book. */
function plainly(
  input: Float32Array,
  inputs: number,
  weights: readonly number[],
  bias: readonly number[],
  reach: number,
  stride: number,
  deep: boolean,
): number[] {
  const before = stride === 1 ? (reach - 1) / 2 : 0;
  const outputs = bias.length;
  const out: number[] = [];
  for (let o = 0; o < outputs; o++) {
    for (let y = 0; y < HEIGHT / stride; y++) {
      for (let x = 0; x < WIDTH / stride; x++) {
        let sum = bias[o]!;
        for (let c = 0; c < (deep ? 1 : inputs); c++) {
          for (let k = 0; k < reach * reach; k++) {
            const px = x * stride + (k % reach) - before;
            const py = y * stride + Math.floor(k / reach) - before;
            if (px < 0 || py < 0 || px >= WIDTH || py >= HEIGHT) continue;
            sum +=
              weights[(k * (deep ? 1 : inputs) + c) * outputs + o]! *
              input[((deep ? o : c) * HEIGHT + py) * WIDTH + px]!;
          }
        }
        out.push(Math.max(0, sum));
      }
    }
  }
  return out;
}

describe('the kernels', () => {
  const weights = (count: number): number[] => Array.from({ length: count }, (_, i) => ((i * 11) % 7) - 3);

  it.each([
    ['a first layer, every second place', 3, 4, 3, 2, false],
    ['over all channels, as many out as in', 4, 4, 3, 1, false],
    ['depthwise', 4, 4, 3, 1, true],
    ['depthwise, wide', 4, 4, 5, 1, true],
    ['depthwise, every second place', 4, 4, 3, 2, true],
    ['a first layer of one plane', 1, 4, 3, 2, false],
  ] as const)('do what convolution means: %s', (_name, inputs, outputs, reach, stride, deep) => {
    const w = weights(reach * reach * (deep ? 1 : inputs) * outputs);
    const bias = [1, -2, 3, 0];
    const data = noise(inputs * HEIGHT * WIDTH);
    const run = deep ? convolveDepthwise : convolve;
    const found = withWorkspace((ws) => {
      const network = createNetwork({ only: stored(w, bias) })(ws);
      // what goes in may be there before the weights are asked for
      const input = network.input(inputs, HEIGHT, WIDTH, data);
      return Array.from(run(input, network.layer('only'), stride).samples.copy());
    });
    expect(found).toEqual(plainly(data, inputs, w, bias, reach, stride, deep));
  });

  it('mix channels place by place, and cut off what is negative only where asked', () => {
    const w = weights(3 * 4);
    const open = createNetwork({ only: stored(w, [5, 0, -1, 2]) });
    const data = noise(3 * HEIGHT * WIDTH);
    const plane = HEIGHT * WIDTH;
    const expected = Array.from({ length: 4 * plane }, (_, i) => {
      const o = Math.floor(i / plane);
      return [5, 0, -1, 2][o]! + [0, 1, 2].reduce((sum, c) => sum + w[c * 4 + o]! * data[c * plane + (i % plane)]!, 0);
    });
    const mixed = (rectified: boolean): number[] =>
      withWorkspace((ws) => {
        const network = open(ws);
        return Array.from(
          pointwise(network.input(3, HEIGHT, WIDTH, data), network.layer('only'), rectified).samples.copy(),
        );
      });
    expect(mixed(false)).toEqual(expected);
    expect(mixed(true)).toEqual(expected.map((v) => Math.max(0, v)));
  });
});
