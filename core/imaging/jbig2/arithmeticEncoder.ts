import type { Address } from '../kernels/kernels';
import type { Workspace } from '../kernels/workspace';

/*
 * The adaptive binary arithmetic coder of JBIG2 and JPEG 2000 (the MQ coder), encoder side, as in ITU-T T.88 Annex E.
 */

/** For each state: its probability estimate, the next state after the more and the less probable symbol, and whether they swap. */
const STATES: readonly (readonly [number, number, number, 0 | 1])[] = [
  [0x5601, 1, 1, 1],
  [0x3401, 2, 6, 0],
  [0x1801, 3, 9, 0],
  [0x0ac1, 4, 12, 0],
  [0x0521, 5, 29, 0],
  [0x0221, 38, 33, 0],
  [0x5601, 7, 6, 1],
  [0x5401, 8, 14, 0],
  [0x4801, 9, 14, 0],
  [0x3801, 10, 14, 0],
  [0x3001, 11, 17, 0],
  [0x2401, 12, 18, 0],
  [0x1c01, 13, 20, 0],
  [0x1601, 29, 21, 0],
  [0x5601, 15, 14, 1],
  [0x5401, 16, 14, 0],
  [0x5101, 17, 15, 0],
  [0x4801, 18, 16, 0],
  [0x3801, 19, 17, 0],
  [0x3401, 20, 18, 0],
  [0x3001, 21, 19, 0],
  [0x2801, 22, 19, 0],
  [0x2401, 23, 20, 0],
  [0x2201, 24, 21, 0],
  [0x1c01, 25, 22, 0],
  [0x1801, 26, 23, 0],
  [0x1601, 27, 24, 0],
  [0x1401, 28, 25, 0],
  [0x1201, 29, 26, 0],
  [0x1101, 30, 27, 0],
  [0x0ac1, 31, 28, 0],
  [0x09c1, 32, 29, 0],
  [0x08a1, 33, 30, 0],
  [0x0521, 34, 31, 0],
  [0x0441, 35, 32, 0],
  [0x02a1, 36, 33, 0],
  [0x0221, 37, 34, 0],
  [0x0141, 38, 35, 0],
  [0x0111, 39, 36, 0],
  [0x0085, 40, 37, 0],
  [0x0049, 41, 38, 0],
  [0x0025, 42, 39, 0],
  [0x0015, 43, 40, 0],
  [0x0009, 44, 41, 0],
  [0x0005, 45, 42, 0],
  [0x0001, 45, 43, 0],
  [0x5601, 46, 46, 0],
];
// a state and its more probable symbol in one number: state × 2 + symbol
const ESTIMATE = Uint16Array.from({ length: 2 * STATES.length }, (_, i) => STATES[i >> 1]![0]);
/** The state after the more probable symbol was coded and renormalised. */
const AFTER_MORE = Uint8Array.from({ length: 2 * STATES.length }, (_, i) => 2 * STATES[i >> 1]![1] + (i & 1));
/** The state after the less probable one. */
const AFTER_LESS = Uint8Array.from(
  { length: 2 * STATES.length },
  (_, i) => 2 * STATES[i >> 1]![2] + ((i & 1) ^ STATES[i >> 1]![3]),
);

/** A code that is under way; any number of them can be. */
export interface ArithmeticEncoder {
  /** Its state in the kernels' memory, for kernels that code many bits. */
  readonly coder: Address;
  /** Codes a bit in a context, an index below the number of contexts. */
  code(context: number, bit: number): void;
  /** Ends the code. */
  finish(): Uint8Array<ArrayBuffer>;
}

/** 32-bit numbers of a code's state. */
const STATE_NUMBERS = 9;

/**
 * Begins a code of the MQ coder (ITU-T T.88, annex E).
 * @param ws - the code lives as long as this
 * @param contexts - how many contexts there are, each with its own estimate
 * @param mostBytes - that the code can take: a bit coded takes far less than two
 */
export function startArithmeticEncoder(ws: Workspace, contexts: number, mostBytes: number): ArithmeticEncoder {
  const { kernels } = ws;
  const state = ws.i32(STATE_NUMBERS);
  const contextStates = ws.u8(contexts);
  contextStates.fill(0);
  const out = ws.u8(Math.ceil(mostBytes));
  kernels.beginCode(state.at, ws.of(ESTIMATE).at, ws.of(AFTER_MORE).at, ws.of(AFTER_LESS).at, contextStates.at, out.at);
  return {
    coder: state.at,
    code: (context, bit) => kernels.codeBit(state.at, context, bit),
    // the first byte takes a carry, and nobody reads it
    finish: () => {
      const length = kernels.endCode(state.at);
      return out.copy(1, 1 + length);
    },
  };
}
