import { CONVOLUTION_KERNELS } from '../kernels/convolutionKernels';
import { arenaKernels, bytesOfBase64, FIRST_BYTE } from '../kernels/startKernels';

/*
 * The few operations of which the small networks are made. The inner loops are WebAssembly (kernels/convolution.as.ts);
 * tensors live in its memory, one after another, until the next network starts. Padding is as TensorFlow's "same": a
 * step of two looks right and down of its place.
 */

/** One convolution as stored: 8-bit weights in base64 ([ky, kx, (in,) out]), one scale and one bias an output channel. */
export interface StoredLayer {
  readonly w: string;
  readonly s: readonly number[];
  readonly b: readonly number[];
}

/** Channels of one picture, plane after plane, at a place (in bytes) of the kernels' memory. */
export interface Tensor {
  readonly channels: number;
  readonly height: number;
  readonly width: number;
  readonly at: number;
}

export interface Layer {
  /** Places (in bytes) of the weights and biases. */
  readonly weights: number;
  readonly bias: number;
  /** Weights that go into one output. */
  readonly weightsEach: number;
  readonly outputs: number;
}

interface Kernels {
  pad(
    input: number,
    channels: number,
    height: number,
    width: number,
    before: number,
    paddedHeight: number,
    paddedWidth: number,
    out: number,
  ): void;
  add(to: number, from: number, count: number): void;
  addDoubled(fine: number, coarse: number, rows: number, width: number): void;
  pointwise(
    input: number,
    inputs: number,
    weights: number,
    bias: number,
    output: number,
    outputs: number,
    plane: number,
    rectified: boolean,
  ): void;
  convolve(
    input: number,
    weights: number,
    bias: number,
    output: number,
    outputs: number,
    each: number,
    deep: boolean,
    height: number,
    width: number,
    reach: number,
    stride: number,
    paddedWidth: number,
    paddedPlane: number,
  ): void;
}

/** Room for the largest network's tensors. */
const FIRST_PAGES = 384;

const arena = arenaKernels<Kernels>(CONVOLUTION_KERNELS, FIRST_PAGES);
/** Weights stay below this; tensors come and go above it. */
let keptEnd = FIRST_BYTE;

const reserve = (values: number): number => arena().reserve(4 * values);

const view = (at: number, values: number): Float32Array => new Float32Array(arena().buffer(), at, values);

const tensorOf = (channels: number, height: number, width: number): Tensor => ({
  channels,
  height,
  width,
  at: reserve(channels * height * width),
});

/** The tensor's values; valid until the next operation. */
export const valuesOf = ({ at, channels, height, width }: Tensor): Float32Array => view(at, channels * height * width);

export interface Network {
  /** @throws RangeError for a name that it does not have */
  layer(name: string): Layer;
  /** Begins a run: the tensors of what ran before are gone. `data` holds plane after plane. */
  input(channels: number, height: number, width: number, data: Float32Array): Tensor;
}

/** A network from its stored layers. They are read at its first use, whichever that is, and stay for the life of the worker. */
export function createNetwork(stored: Readonly<Record<string, StoredLayer>>): Network {
  const layers = new Map<string, Layer>();
  const keep = (values: Float32Array): number => {
    const at = reserve(values.length);
    view(at, values.length).set(values);
    return at;
  };
  function load(): void {
    if (layers.size > 0) return;
    arena().releaseFrom(keptEnd); // no tensor is alive between networks
    for (const [each, { w, s, b }] of Object.entries(stored)) {
      const weights = Float32Array.from(bytesOfBase64(w), (byte, i) => ((byte << 24) >> 24) * s[i % s.length]!);
      layers.set(each, {
        weights: keep(weights),
        bias: keep(Float32Array.from(b)),
        weightsEach: weights.length / s.length,
        outputs: s.length,
      });
    }
    keptEnd = arena().end();
  }
  return {
    layer(name) {
      load();
      const layer = layers.get(name);
      if (layer === undefined) throw new RangeError(`The network has no layer “${name}”.`);
      return layer;
    },
    input(channels, height, width, data) {
      load();
      arena().releaseFrom(keptEnd);
      const tensor = tensorOf(channels, height, width);
      valuesOf(tensor).set(data);
      return tensor;
    },
  };
}

/** The tensor with a rim of nothing around every plane. */
function pad(input: Tensor, before: number, after: number): { at: number; width: number; plane: number } {
  const { channels, height, width } = input;
  const paddedWidth = width + before + after;
  const plane = paddedWidth * (height + before + after);
  const at = reserve(channels * plane + 16);
  view(at, channels * plane).fill(0);
  arena().kernels.pad(input.at, channels, height, width, before, height + before + after, paddedWidth, at);
  return { at, width: paddedWidth, plane };
}

/** Squares of weights over all channels, rectified. */
export const convolve = (input: Tensor, layer: Layer, stride: 1 | 2): Tensor => squares(input, layer, stride, false);

/** One square of weights for each channel, rectified: as many channels come out as go in. */
export const convolveDepthwise = (input: Tensor, layer: Layer, stride: 1 | 2): Tensor =>
  squares(input, layer, stride, true);

function squares(input: Tensor, layer: Layer, stride: 1 | 2, deep: boolean): Tensor {
  const each = deep ? 1 : input.channels;
  const reach = Math.sqrt(layer.weightsEach / each);
  const padded = stride === 1 ? pad(input, (reach - 1) / 2, (reach - 1) / 2) : pad(input, 0, reach - stride);
  const out = tensorOf(layer.outputs, input.height / stride, input.width / stride);
  arena().kernels.convolve(
    padded.at,
    layer.weights,
    layer.bias,
    out.at,
    out.channels,
    each,
    deep,
    out.height,
    out.width,
    reach,
    stride,
    padded.width,
    padded.plane,
  );
  return out;
}

/** 1 × 1 over all channels. */
export function pointwise(input: Tensor, layer: Layer, rectified: boolean): Tensor {
  const out = tensorOf(layer.outputs, input.height, input.width);
  arena().kernels.pointwise(
    input.at,
    input.channels,
    layer.weights,
    layer.bias,
    out.at,
    out.channels,
    out.height * out.width,
    rectified,
  );
  return out;
}

/** Depthwise then pointwise convolution, each rectified; what keeps its shape is added to what came in. */
export function separable(input: Tensor, deep: Layer, point: Layer, stride: 1 | 2): Tensor {
  const out = pointwise(convolveDepthwise(input, deep, stride), point, true);
  if (stride === 1 && out.channels === input.channels)
    arena().kernels.add(out.at, input.at, out.channels * out.height * out.width);
  return out;
}

/** The mean of each channel. */
export function meanOf(input: Tensor): Tensor {
  const { channels, height, width } = input;
  const plane = height * width;
  const out = tensorOf(channels, 1, 1);
  const from = valuesOf(input);
  const to = valuesOf(out);
  for (let c = 0; c < channels; c++) {
    let sum = 0;
    for (let i = c * plane; i < (c + 1) * plane; i++) sum += from[i]!;
    to[c] = sum / plane;
  }
  return out;
}

/** Adds one value a channel everywhere, in place. */
export function addEverywhere(tensor: Tensor, values: Tensor): void {
  const plane = tensor.height * tensor.width;
  const to = valuesOf(tensor);
  const add = valuesOf(values);
  for (let c = 0; c < tensor.channels; c++) for (let i = c * plane; i < (c + 1) * plane; i++) to[i]! += add[c]!;
}

/** Adds the coarse tensor at twice its size, each value four times, to the fine one, in place. */
export function addUpsampled(coarse: Tensor, fine: Tensor): Tensor {
  const { channels, height, width } = fine;
  arena().kernels.addDoubled(fine.at, coarse.at, channels * height, width);
  return fine;
}
