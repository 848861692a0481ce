/*
 * The adaptive binary arithmetic coder of JBIG2 and JPEG 2000 (the MQ coder), encoder side, as in ITU-T T.88 Annex E.
 */

/** For each state: its probability estimate, the next state after the more and the less probable symbol, and whether they swap. */
const STATES: readonly (readonly [number, number, number, 0 | 1])[] = [
  [0x5601, 1, 1, 1], [0x3401, 2, 6, 0], [0x1801, 3, 9, 0], [0x0ac1, 4, 12, 0], [0x0521, 5, 29, 0], [0x0221, 38, 33, 0],
  [0x5601, 7, 6, 1], [0x5401, 8, 14, 0], [0x4801, 9, 14, 0], [0x3801, 10, 14, 0], [0x3001, 11, 17, 0], [0x2401, 12, 18, 0],
  [0x1c01, 13, 20, 0], [0x1601, 29, 21, 0], [0x5601, 15, 14, 1], [0x5401, 16, 14, 0], [0x5101, 17, 15, 0], [0x4801, 18, 16, 0],
  [0x3801, 19, 17, 0], [0x3401, 20, 18, 0], [0x3001, 21, 19, 0], [0x2801, 22, 19, 0], [0x2401, 23, 20, 0], [0x2201, 24, 21, 0],
  [0x1c01, 25, 22, 0], [0x1801, 26, 23, 0], [0x1601, 27, 24, 0], [0x1401, 28, 25, 0], [0x1201, 29, 26, 0], [0x1101, 30, 27, 0],
  [0x0ac1, 31, 28, 0], [0x09c1, 32, 29, 0], [0x08a1, 33, 30, 0], [0x0521, 34, 31, 0], [0x0441, 35, 32, 0], [0x02a1, 36, 33, 0],
  [0x0221, 37, 34, 0], [0x0141, 38, 35, 0], [0x0111, 39, 36, 0], [0x0085, 40, 37, 0], [0x0049, 41, 38, 0], [0x0025, 42, 39, 0],
  [0x0015, 43, 40, 0], [0x0009, 44, 41, 0], [0x0005, 45, 42, 0], [0x0001, 45, 43, 0], [0x5601, 46, 46, 0],
];
// a state and its more probable symbol in one number: state × 2 + symbol
const ESTIMATE = Uint16Array.from({ length: 2 * STATES.length }, (_, i) => STATES[i >> 1]![0]);
const AFTER_MORE = Uint8Array.from({ length: 2 * STATES.length }, (_, i) => 2 * STATES[i >> 1]![1] + (i & 1));
const AFTER_LESS = Uint8Array.from({ length: 2 * STATES.length }, (_, i) => 2 * STATES[i >> 1]![2] + ((i & 1) ^ STATES[i >> 1]![3]));

export interface ArithmeticEncoder {
  /** Codes a bit in a context, an index below the number of contexts. */
  code(context: number, bit: number): void;
  /** The same as coding the bit so many times, in far fewer steps where it is what the context expects. */
  codeRun(context: number, bit: number, times: number): void;
  /** Ends the code; nothing may be coded after it. */
  finish(): Uint8Array;
}

/** @param contexts - how many contexts there are, each with its own estimate */
export function createArithmeticEncoder(contexts: number): ArithmeticEncoder {
  const states = new Uint8Array(contexts);
  // out[0] is the byte before the first, which the method writes to and nobody reads
  let out = new Uint8Array(1 << 16);
  let at = 0;
  let a = 0x8000;
  let c = 0;
  let count = 12;

  const push = (byte: number): void => {
    if (++at === out.length) {
      const larger = new Uint8Array(2 * out.length);
      larger.set(out);
      out = larger;
    }
    out[at] = byte;
  };
  const byteOut = (): void => {
    if (out[at] !== 0xff && c >= 0x8000000) {
      // the carry goes into the byte written last
      out[at]!++;
      if (out[at] === 0xff) c &= 0x7ffffff;
    }
    if (out[at] === 0xff && at > 0) {
      push((c >>> 20) & 0xff);
      c &= 0xfffff;
      count = 7;
    } else {
      push((c >>> 19) & 0xff);
      c &= 0x7ffff;
      count = 8;
    }
  };
  const renormalise = (): void => {
    do {
      a <<= 1;
      c <<= 1;
      if (--count === 0) byteOut();
    } while ((a & 0x8000) === 0);
  };
  const encoder: ArithmeticEncoder = {
    code(context, bit) {
      const state = states[context]!;
      const estimate = ESTIMATE[state]!;
      a -= estimate;
      if (bit === (state & 1)) {
        if ((a & 0x8000) !== 0) {
          c += estimate;
          return;
        }
        if (a < estimate) a = estimate;
        else c += estimate;
        states[context] = AFTER_MORE[state]!;
      } else {
        if (a < estimate) c += estimate;
        else a = estimate;
        states[context] = AFTER_LESS[state]!;
      }
      renormalise();
    },
    codeRun(context, bit, times) {
      for (let left = times; left > 0; left--) {
        const state = states[context]!;
        if (bit === (state & 1)) {
          // until the interval must be renormalised nothing changes but its size and base
          const estimate = ESTIMATE[state]!;
          const free = Math.min(left, Math.floor((a - 0x8000) / estimate));
          a -= free * estimate;
          c += free * estimate;
          left -= free;
          if (left === 0) return;
        }
        encoder.code(context, bit);
      }
    },
    finish() {
      const highest = c + a;
      c |= 0xffff;
      if (c >= highest) c -= 0x8000;
      c <<= count;
      byteOut();
      c <<= count;
      byteOut();
      if (out[at] !== 0xff) push(0xff);
      push(0xac);
      return out.slice(1, at + 1);
    },
  };
  return encoder;
}
