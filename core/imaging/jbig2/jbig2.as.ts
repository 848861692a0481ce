// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The arithmetic coder of arithmeticEncoder.ts and the rows of jbig2.ts.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/*
 * A code that is under way lies in memory: 32-bit numbers, in the order of these names. Each call takes them out, works on them
 * here, and puts them back, so that any number of codes can be under way.
 */

/** For each state × 2 + its more probable symbol: the estimate (16 bits), then the next after the more and the less probable symbol (8 bits each). */
let estimates: usize = 0;
let afterMore: usize = 0;
let afterLess: usize = 0;
/** One byte a context. */
let states: usize = 0;
/** The byte before the first: it is written to as well, and nobody reads it. */
let first: usize = 0;
/** The byte written last. */
let at: usize = 0;
let a: u32 = 0;
let c: u32 = 0;
let count: i32 = 0;

// @ts-ignore: decorator
@inline
function takeOut(coder: usize): void {
  estimates = load<u32>(coder);
  afterMore = load<u32>(coder, 4);
  afterLess = load<u32>(coder, 8);
  states = load<u32>(coder, 12);
  first = load<u32>(coder, 16);
  at = load<u32>(coder, 20);
  a = load<u32>(coder, 24);
  c = load<u32>(coder, 28);
  count = load<i32>(coder, 32);
}

// @ts-ignore: decorator
@inline
function putBack(coder: usize): void {
  store<u32>(coder, <u32>at, 20);
  store<u32>(coder, a, 24);
  store<u32>(coder, c, 28);
  store<i32>(coder, count, 32);
}

/** Begins a code at `out`; `coder` has room for nine 32-bit numbers. The contexts' states are 0. */
export function beginCode(coder: usize, estimateTable: usize, moreTable: usize, lessTable: usize, contexts: usize, out: usize): void {
  store<u32>(coder, <u32>estimateTable);
  store<u32>(coder, <u32>moreTable, 4);
  store<u32>(coder, <u32>lessTable, 8);
  store<u32>(coder, <u32>contexts, 12);
  store<u32>(coder, <u32>out, 16);
  store<u32>(coder, <u32>out, 20);
  store<u32>(coder, 0x8000, 24);
  store<u32>(coder, 0, 28);
  store<i32>(coder, 12, 32);
  store<u8>(out, 0);
}

function byteOut(): void {
  if (load<u8>(at) != 0xff && c >= 0x8000000) {
    // the carry goes into the byte written last
    store<u8>(at, load<u8>(at) + 1);
    if (load<u8>(at) == 0xff) c &= 0x7ffffff;
  }
  if (load<u8>(at) == 0xff && at > first) {
    store<u8>(++at, <u8>(c >>> 20));
    c &= 0xfffff;
    count = 7;
  } else {
    store<u8>(++at, <u8>(c >>> 19));
    c &= 0x7ffff;
    count = 8;
  }
}

function encode(context: u32, bit: u32): void {
  const state = <u32>load<u8>(states + context);
  const estimate = <u32>load<u16>(estimates + (<usize>state << 1));
  a -= estimate;
  if (bit == (state & 1)) {
    if ((a & 0x8000) != 0) {
      c += estimate;
      return;
    }
    if (a < estimate) a = estimate;
    else c += estimate;
    store<u8>(states + context, load<u8>(afterMore + state));
  } else {
    if (a < estimate) c += estimate;
    else a = estimate;
    store<u8>(states + context, load<u8>(afterLess + state));
  }
  do {
    a <<= 1;
    c <<= 1;
    if (--count == 0) byteOut();
  } while ((a & 0x8000) == 0);
}

/** The same as encoding the bit so many times, in far fewer steps where it is what the context expects. */
function encodeRun(context: u32, bit: u32, times: i32): void {
  for (let left = times; left > 0; left--) {
    const state = <u32>load<u8>(states + context);
    if (bit == (state & 1)) {
      // until the interval must be renormalised nothing changes but its size and base
      const estimate = <u32>load<u16>(estimates + (<usize>state << 1));
      const free = min<u32>(<u32>left, (a - 0x8000) / estimate);
      a -= free * estimate;
      c += free * estimate;
      left -= <i32>free;
      if (left == 0) return;
    }
    encode(context, bit);
  }
}

/** Codes a bit in a context. */
export function codeBit(coder: usize, context: u32, bit: u32): void {
  takeOut(coder);
  encode(context, bit);
  putBack(coder);
}

/** Ends the code. @returns how many bytes it has, from the second of `out` on */
export function endCode(coder: usize): i32 {
  takeOut(coder);
  const highest = c + a;
  c |= 0xffff;
  if (c >= highest) c -= 0x8000;
  c <<= count;
  byteOut();
  c <<= count;
  byteOut();
  if (load<u8>(at) != 0xff) store<u8>(++at, 0xff);
  store<u8>(++at, 0xac);
  return <i32>(at - first);
}

/** 1 where two stretches of bytes are the same, else 0. */
export function sameBytes(one: usize, other: usize, length: i32): i32 {
  for (let i = 0; i < length; i++) if (load<u8>(one + i) != load<u8>(other + i)) return 0;
  return 1;
}

/**
 * Codes a row of a generic region, template 0, of which only columns from `from` to `end` can have ink in reach: rows of one
 * byte a sample, 0 or 1, with four of 0 before and eight behind.
 */
export function codeRow(coder: usize, twoAbove: usize, above: usize, row: usize, from: i32, end: i32, width: i32): void {
  takeOut(coder);
  encodeRun(0, 0, from);
  // windows that slide along: 5 samples two rows above, 7 one row above, 4 before in the row itself
  let upper: u32 = (<u32>load<u8>(twoAbove + from) << 2) | (<u32>load<u8>(twoAbove + from, 1) << 1) | <u32>load<u8>(twoAbove + from, 2);
  let middle: u32 = (<u32>load<u8>(above + from) << 3) | (<u32>load<u8>(above + from, 1) << 2) | (<u32>load<u8>(above + from, 2) << 1) | <u32>load<u8>(above + from, 3);
  let before: u32 = 0;
  for (let x = from; x < end; x++) {
    if ((upper | middle | before) == 0) {
      const start = x;
      while (x + 8 <= end && (load<u64>(row + x) | load<u64>(twoAbove + x, 3) | load<u64>(above + x, 4)) == 0) x += 8;
      while (x < end && (load<u8>(row + x) | load<u8>(twoAbove + x, 3) | load<u8>(above + x, 4)) == 0) x++;
      encodeRun(0, 0, x - start);
      if (x >= end) break;
    }
    const ink = <u32>load<u8>(row + x);
    encode((upper << 11) | (middle << 4) | before, ink);
    upper = ((upper << 1) | <u32>load<u8>(twoAbove + x, 3)) & 0x1f;
    middle = ((middle << 1) | <u32>load<u8>(above + x, 4)) & 0x7f;
    before = ((before << 1) | ink) & 0x0f;
  }
  encodeRun(0, 0, width - end);
  putBack(coder);
}

/**
 * The context (template 0) of each sample of a picture, one row right behind the other: at its sides contexts reach around.
 * There are 2 × width + 2 samples of 0 in front and twelve behind, and contexts (16 bits) are 0 at first.
 * @param counts - 32 bits for each context × 2 + symbol: how often that is there is added
 */
export function findContexts(samples: usize, width: i32, count: i32, contexts: usize, counts: usize): void {
  const above = samples - <usize>width;
  const twoAbove = above - <usize>width;
  let upper: u32 = (<u32>load<u8>(twoAbove) << 2) | (<u32>load<u8>(twoAbove, 1) << 1) | <u32>load<u8>(twoAbove, 2);
  let middle: u32 = (<u32>load<u8>(above) << 3) | (<u32>load<u8>(above, 1) << 2) | (<u32>load<u8>(above, 2) << 1) | <u32>load<u8>(above, 3);
  let before: u32 = 0;
  let blank: u32 = 0;
  for (let i = 0; i < count; i++) {
    if ((upper | middle | before) == 0) {
      const start = i;
      while (i + 8 <= count && (load<u64>(samples + i) | load<u64>(twoAbove + i, 3) | load<u64>(above + i, 4)) == 0) i += 8;
      while (i < count && (load<u8>(samples + i) | load<u8>(twoAbove + i, 3) | load<u8>(above + i, 4)) == 0) i++;
      blank += i - start;
      if (i >= count) break;
    }
    const ink = <u32>load<u8>(samples + i);
    const context = (upper << 11) | (middle << 4) | before;
    store<u16>(contexts + (<usize>i << 1), <u16>context);
    const counted = counts + (((context << 1) | ink) << 2);
    store<u32>(counted, load<u32>(counted) + 1);
    upper = ((upper << 1) | <u32>load<u8>(twoAbove + i, 3)) & 0x1f;
    middle = ((middle << 1) | <u32>load<u8>(above + i, 4)) & 0x7f;
    before = ((before << 1) | ink) & 0x0f;
  }
  store<u32>(counts, load<u32>(counts) + blank);
}

// @ts-ignore: decorator
@inline
function bitsOf(costs: usize, context: u32, symbol: u32): f32 {
  return load<f32>(costs + (((context << 1) | symbol) << 2));
}

// @ts-ignore: decorator
@inline
function bitsMore(samples: usize, contexts: usize, costs: usize, i: i32, seen: u32): f32 {
  const context = <u32>load<u16>(contexts + (<usize>i << 1));
  const symbol = <u32>load<u8>(samples + i);
  return bitsOf(costs, context ^ seen, symbol) - bitsOf(costs, context, symbol);
}

// @ts-ignore: decorator
@inline
function turnSeen(contexts: usize, i: i32, seen: u32): void {
  const at = contexts + (<usize>i << 1);
  store<u16>(at, load<u16>(at) ^ <u16>seen);
}

/**
 * Turns samples over where that is better: where the bits it saves, each worth so much, are worth more than the difference it makes.
 * Those that see a sample lie up to two rows below it, and two to the right of that.
 * @param contexts - as findContexts gives them; they follow what is turned
 * @param costs - 32-bit floats: the bits of each context × 2 + symbol
 * @param chosen - 32-bit indices of the samples to look at, in turn
 * @param differences - 32-bit floats: what turning each of them over costs otherwise
 */
export function turnSamples(samples: usize, width: i32, contexts: usize, costs: usize, chosen: usize, differences: usize, count: i32, worth: f32): void {
  for (let k = 0; k < count; k++, chosen += 4, differences += 4) {
    const i = load<i32>(chosen);
    const context = <u32>load<u16>(contexts + (<usize>i << 1));
    const symbol = <u32>load<u8>(samples + i);
    let more = bitsOf(costs, context, symbol ^ 1) - bitsOf(costs, context, symbol);
    for (let d = 1; d <= 4; d++) more += bitsMore(samples, contexts, costs, i + d, 1 << (d - 1));
    for (let d = -3; d <= 3; d++) more += bitsMore(samples, contexts, costs, i + width + d, 1 << (7 + d));
    for (let d = -2; d <= 2; d++) more += bitsMore(samples, contexts, costs, i + 2 * width + d, 1 << (13 + d));
    if (worth * more + load<f32>(differences) >= 0) continue;
    store<u8>(samples + i, <u8>(symbol ^ 1));
    for (let d = 1; d <= 4; d++) turnSeen(contexts, i + d, 1 << (d - 1));
    for (let d = -3; d <= 3; d++) turnSeen(contexts, i + width + d, 1 << (7 + d));
    for (let d = -2; d <= 2; d++) turnSeen(contexts, i + 2 * width + d, 1 << (13 + d));
  }
}

/**
 * The samples of a picture that differ from one of their four neighbours, in order; rows lie one right behind the other, with a
 * row of 0 in front of them and, with sixteen samples more, behind.
 * @param out - gets their indices, 32 bits each
 * @returns how many
 */
export function findEdges(samples: usize, width: i32, count: i32, out: usize): i32 {
  const first = out;
  for (let i = 0; i < count; i += 16) {
    const at = samples + i;
    const own = v128.load(at);
    const beside = v128.or(v128.xor(own, v128.load(at - 1)), v128.xor(own, v128.load(at, 1)));
    const stacked = v128.or(v128.xor(own, v128.load(at - width)), v128.xor(own, v128.load(at + width)));
    let differ = <u32>i8x16.bitmask(i8x16.ne(v128.or(beside, stacked), i8x16.splat(0)));
    if (count - i < 16) differ &= (1 << (count - i)) - 1;
    while (differ != 0) {
      store<i32>(out, i + <i32>ctz<u32>(differ));
      out += 4;
      differ &= differ - 1;
    }
  }
  return <i32>((out - first) >> 2);
}
