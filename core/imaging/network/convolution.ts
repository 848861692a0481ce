import { bytesOfBase64 } from '../kernels/base64';
import type { FloatSlot, Workspace } from '../kernels/workspace';

/*
 * The few operations of which the small networks are made. Tensors and weights lie in a workspace, and end with it. Padding is
 * as TensorFlow's "same": a step of two looks right and down of its place.
 */

/** One convolution as stored: 8-bit weights in base64 ([ky, kx, (in,) out]), one scale and one bias an output channel. */
export interface StoredLayer {
  readonly w: string;
  readonly s: readonly number[];
  readonly b: readonly number[];
}

/** Channels of one picture, plane after plane: samples[(channel × height + y) × width + x]. */
export interface Tensor {
  readonly channels: number;
  readonly height: number;
  readonly width: number;
  readonly samples: FloatSlot;
  readonly ws: Workspace;
}

export interface Layer {
  readonly weights: FloatSlot;
  readonly bias: FloatSlot;
  /** Weights that go into one output. */
  readonly weightsEach: number;
  readonly outputs: number;
}

const tensorOf = (ws: Workspace, channels: number, height: number, width: number): Tensor => ({
  channels,
  height,
  width,
  samples: ws.f32(channels * height * width),
  ws,
});

/** A network that is ready to run in a workspace. */
export interface Network {
  /** @throws RangeError for a name that it does not have */
  layer(name: string): Layer;
  /** @param data - plane after plane */
  input(channels: number, height: number, width: number, data: Float32Array): Tensor;
}

/**
 * A network from its stored layers, which are read when it is first opened.
 * @returns opens it in a workspace
 */
export function createNetwork(stored: Readonly<Record<string, StoredLayer>>): (ws: Workspace) => Network {
  type Values = { readonly weights: Float32Array; readonly bias: Float32Array };
  let read: ReadonlyMap<string, Values> | null = null;
  const readLayers = (): ReadonlyMap<string, Values> =>
    new Map(
      Object.entries(stored).map(([name, { w, s, b }]) => {
        const steps = new Int8Array(bytesOfBase64(w).buffer);
        const weights = new Float32Array(steps);
        for (let i = 0; i < weights.length; i++) weights[i]! *= s[i % s.length]!;
        return [name, { weights, bias: Float32Array.from(b) }];
      }),
    );
  return (ws) => {
    const values = (read ??= readLayers());
    return {
      layer(name) {
        const layer = values.get(name);
        if (layer === undefined) throw new RangeError(`The network has no layer “${name}”.`);
        const { weights, bias } = layer;
        return {
          weights: ws.of(weights),
          bias: ws.of(bias),
          weightsEach: weights.length / bias.length,
          outputs: bias.length,
        };
      },
      input(channels, height, width, data) {
        const tensor = tensorOf(ws, channels, height, width);
        tensor.samples.set(data);
        return tensor;
      },
    };
  };
}

/** The tensor with a rim of nothing around every plane. */
function pad(input: Tensor, before: number, after: number): { samples: FloatSlot; width: number; plane: number } {
  const { channels, height, width, ws } = input;
  const paddedWidth = width + before + after;
  const paddedHeight = height + before + after;
  const plane = paddedWidth * paddedHeight;
  const samples = ws.f32(channels * plane + 16);
  samples.fill(0);
  ws.kernels.padPlanes(input.samples.at, channels, height, width, before, paddedHeight, paddedWidth, samples.at);
  return { samples, width: paddedWidth, plane };
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
  const out = tensorOf(input.ws, layer.outputs, input.height / stride, input.width / stride);
  input.ws.kernels.convolve(
    padded.samples.at,
    layer.weights.at,
    layer.bias.at,
    out.samples.at,
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
  const out = tensorOf(input.ws, layer.outputs, input.height, input.width);
  input.ws.kernels.pointwise(
    input.samples.at,
    input.channels,
    layer.weights.at,
    layer.bias.at,
    out.samples.at,
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
    input.ws.kernels.addPlanes(out.samples.at, input.samples.at, out.samples.length);
  return out;
}

/** The mean of each channel. */
export function meanOf({ channels, height, width, samples, ws }: Tensor): Tensor {
  const plane = height * width;
  const out = tensorOf(ws, channels, 1, 1);
  const means = samples.view((from) =>
    Float32Array.from({ length: channels }, (_, c) => sumOf(from, c * plane, (c + 1) * plane) / plane),
  );
  out.samples.set(means);
  return out;
}

function sumOf(values: Float32Array, from: number, end: number): number {
  let sum = 0;
  for (let i = from; i < end; i++) sum += values[i]!;
  return sum;
}

/** Adds one value a channel everywhere, in place. */
export function addEverywhereInto({ channels, height, width, samples }: Tensor, values: Tensor): void {
  const plane = height * width;
  const add = values.samples.copy();
  samples.view((to) => {
    for (let c = 0; c < channels; c++) addTo(to, c * plane, (c + 1) * plane, add[c]!);
  });
}

function addTo(values: Float32Array, from: number, end: number, value: number): void {
  for (let i = from; i < end; i++) values[i]! += value;
}

/** Adds the coarse tensor at twice its size, each value four times, to the fine one, in place. @returns the fine one */
export function addUpsampledInto(fine: Tensor, coarse: Tensor): Tensor {
  fine.ws.kernels.addEnlarged(fine.samples.at, coarse.samples.at, fine.channels * fine.height, fine.width);
  return fine;
}
