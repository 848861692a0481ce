import { KERNELS_BASE64, type Address, type Kernels } from './kernels';
import { bytesOfBase64 } from './base64';

/*
 * Where pixels lie while the WebAssembly kernels work on them. A workspace gives out slots of the kernels' memory and takes
 * all of them back at its end; workspaces nest, the innermost gives out slots. A slot of a workspace that has ended throws, and
 * what leaves a slot is always a copy: nothing that a caller holds can be written over later, whatever is called in between.
 */

type Samples = Float32Array | Float64Array | Int32Array | Uint32Array | Uint16Array | Uint8Array | Uint8ClampedArray;
type SamplesOf<T extends Samples> = {
  readonly BYTES_PER_ELEMENT: number;
  new (buffer: ArrayBuffer, byteOffset: number, length: number): T;
};

/** Samples in the kernels' memory. Their values are whatever lay there before, until they are set. */
export interface Slot<T extends Samples> {
  readonly length: number;
  /** Its first sample's address, for a kernel. @throws RangeError once its workspace has ended */
  readonly at: Address;
  /** The address of a sample, from 0; it may be the one behind the last. */
  addressOf(index: number): Address;
  /** Writes samples, from `offset` on. @throws RangeError where there is no room for them */
  set(values: ArrayLike<number>, offset?: number): void;
  fill(value: number, from?: number, to?: number): void;
  /** Moves samples within the slot. */
  copyWithin(target: number, from: number, to: number): void;
  /** A copy of the samples from `from` up to `to`. */
  copy(from?: number, to?: number): ReturnType<T['slice']>;
  /** Writes its first samples into an array, from `offset` on. */
  copyInto(target: { set(values: T, offset: number): void }, offset: number, length?: number): void;
  /** Lets `work` read and write the samples where they lie. No slot can be asked for before it returns. */
  view<R>(work: (samples: T) => R): R;
}

export type FloatSlot = Slot<Float32Array<ArrayBuffer>>;
type DoubleSlot = Slot<Float64Array<ArrayBuffer>>;
export type IntSlot = Slot<Int32Array<ArrayBuffer>>;
export type ByteSlot = Slot<Uint8Array<ArrayBuffer>>;
export type ClampedSlot = Slot<Uint8ClampedArray<ArrayBuffer>>;

export interface Workspace {
  readonly kernels: Kernels;
  /** A slot with a copy of samples. */
  of(values: Float32Array): FloatSlot;
  of(values: Float64Array): DoubleSlot;
  of(values: Int32Array): IntSlot;
  of(values: Uint16Array): Slot<Uint16Array<ArrayBuffer>>;
  of(values: Uint8Array): ByteSlot;
  of(values: Uint8ClampedArray): ClampedSlot;
  f32(length: number): FloatSlot;
  f64(length: number): DoubleSlot;
  i32(length: number): IntSlot;
  u8(length: number): ByteSlot;
  /** Bytes that are clamped to 0 to 255 when they are set. */
  clamped(length: number): ClampedSlot;
}

/** Kernels read and write sixteen bytes at a time, and so past the end of what they are given: so much behind a slot is free. */
const SPARE_BYTES = 64;
/** Slots begin at multiples of this, bytes: a register's worth. */
const ALIGNMENT = 16;
/** The first address given out: none of the compiler's own data lies in front. */
const FIRST_BYTE = 1024;
/** WebAssembly's memory comes in pages of 64 KiB. */
const PAGE_BYTES = 65_536;

/** The module with its memory, of which everything below `next` is given out. */
class KernelMemory {
  readonly kernels: Kernels;
  private readonly memory = new WebAssembly.Memory({ initial: 16 });
  next = FIRST_BYTE;
  /** Views that are being read: the memory must not move under them. */
  viewed = 0;
  innermost: OpenWorkspace | null = null;

  constructor() {
    const compiled = new WebAssembly.Module(bytesOfBase64(KERNELS_BASE64));
    this.kernels = new WebAssembly.Instance(compiled, { env: { memory: this.memory } }).exports as unknown as Kernels;
  }

  get buffer(): ArrayBuffer {
    return this.memory.buffer;
  }

  /** @returns the first byte of so many, a multiple of ALIGNMENT */
  reserve(bytes: number): number {
    const at = Math.ceil(this.next / ALIGNMENT) * ALIGNMENT;
    this.next = at + bytes;
    const missing = this.next - this.memory.buffer.byteLength;
    if (missing > 0) this.memory.grow(Math.ceil(missing / PAGE_BYTES));
    return at;
  }
}

class OpenWorkspace implements Workspace {
  ended = false;
  readonly kernels: Kernels;

  constructor(readonly memory: KernelMemory) {
    this.kernels = memory.kernels;
  }

  private slot<T extends Samples>(kind: SamplesOf<T>, length: number): Slot<T> {
    const { memory } = this;
    if (this.ended) throw new RangeError('This workspace has ended.');
    if (memory.innermost !== this) throw new RangeError('A workspace within this one is still open.');
    if (memory.viewed > 0) throw new RangeError('Slots are being viewed: ask for more before that.');
    const at = memory.reserve(length * kind.BYTES_PER_ELEMENT + SPARE_BYTES);
    return new WorkspaceSlot(this, kind, at, length);
  }

  of<T extends Samples & ArrayLike<number>>(values: T): Slot<never> {
    const slot = this.slot(values.constructor as SamplesOf<T>, values.length);
    slot.set(values);
    return slot as unknown as Slot<never>;
  }

  f32(length: number): FloatSlot {
    return this.slot(Float32Array<ArrayBuffer>, length);
  }

  f64(length: number): DoubleSlot {
    return this.slot(Float64Array<ArrayBuffer>, length);
  }

  i32(length: number): IntSlot {
    return this.slot(Int32Array<ArrayBuffer>, length);
  }

  u8(length: number): ByteSlot {
    return this.slot(Uint8Array<ArrayBuffer>, length);
  }

  clamped(length: number): ClampedSlot {
    return this.slot(Uint8ClampedArray<ArrayBuffer>, length);
  }
}

class WorkspaceSlot<T extends Samples> implements Slot<T> {
  constructor(
    private readonly workspace: OpenWorkspace,
    private readonly kind: SamplesOf<T>,
    private readonly place: number,
    readonly length: number,
  ) {}

  get at(): Address {
    if (this.workspace.ended) throw new RangeError('The workspace of this slot has ended.');
    return this.place as Address;
  }

  addressOf(index: number): Address {
    return (this.at + index * this.kind.BYTES_PER_ELEMENT) as Address;
  }

  private samples(length = this.length): T {
    return new this.kind(this.workspace.memory.buffer, this.at, length);
  }

  set(values: ArrayLike<number>, offset = 0): void {
    this.samples().set(values, offset);
  }

  fill(value: number, from = 0, to = this.length): void {
    this.samples().fill(value, from, to);
  }

  copyWithin(target: number, from: number, to: number): void {
    this.samples().copyWithin(target, from, to);
  }

  copy(from = 0, to = this.length): ReturnType<T['slice']> {
    return this.samples().slice(from, to) as ReturnType<T['slice']>;
  }

  copyInto(target: { set(values: T, offset: number): void }, offset: number, length = this.length): void {
    if (length > this.length) throw new RangeError(`The slot has ${this.length} samples, not ${length}.`);
    target.set(this.samples(length), offset);
  }

  view<R>(work: (samples: T) => R): R {
    const { memory } = this.workspace;
    const samples = this.samples();
    memory.viewed++;
    try {
      return work(samples);
    } finally {
      memory.viewed--;
    }
  }
}

/** One for each thread, started when it is first needed: it holds nothing between two workspaces. */
let started: KernelMemory | null = null;

/**
 * Runs work that uses kernels, and frees all it asked for when it returns or throws. Loops over a whole page are best a function
 * at the top of a file, called with what they need: an engine throws the machine code of a closure away with the closure, and
 * would compile it again for every page.
 * @param work - it may open workspaces of its own, whose slots end before it goes on
 * @param given - what it is called with after the workspace
 * @throws RangeError where the work goes on after it returned: its slots would be gone
 */
export function withWorkspace<R, Given extends readonly unknown[]>(
  work: (workspace: Workspace, ...given: Given) => R,
  ...given: Given
): R {
  const memory = (started ??= new KernelMemory());
  const workspace = new OpenWorkspace(memory);
  const outer = memory.innermost;
  const from = memory.next;
  memory.innermost = workspace;
  try {
    const result = work(workspace, ...given);
    if (result instanceof Promise) throw new RangeError('Work in a workspace cannot wait for anything.');
    return result;
  } finally {
    workspace.ended = true;
    memory.innermost = outer;
    memory.next = from;
  }
}
