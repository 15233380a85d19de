import type { FilterBank } from '../filterBank';
import { POLYPHASE_BINARY } from './polyphaseBinary';

interface Exports {
  memory: WebAssembly.Memory;
  run(
    coefficients: number,
    input: number,
    output: number,
    count: number,
    phase: number,
    taps: number,
    up: number,
    wholeBytes: number,
    stepPhase: number,
  ): void;
  between(
    coefficients: number,
    input: number,
    output: number,
    count: number,
    taps: number,
    wholeBytes: number,
    phase: number,
    up: number,
    stepPhase: number,
    phases: number,
  ): void;
}

/** Where the next output frame lies: whole input frames, and `phase`/`up` of one more. */
export interface Place {
  at: number;
  phase: number;
  up: number;
  down: number;
}

let loaded: Exports | null = null;
/** The bank whose coefficients lie in the module's memory. */
let loadedBank: FilterBank | null = null;

function load(): Exports {
  if (loaded) return loaded;
  const bytes = Uint8Array.from(atob(POLYPHASE_BINARY), (letter) => letter.charCodeAt(0));
  loaded = new WebAssembly.Instance(new WebAssembly.Module(bytes)).exports as unknown as Exports;
  return loaded;
}

const PAGE_BYTES = 65_536;

/**
 * Fills `output` with one channel's frames, reading `input` from `place` on.
 * `input` must hold the whole filter of the last output frame.
 */
export function runPolyphase(
  bank: FilterBank,
  place: Place,
  input: Float32Array,
  output: Float32Array,
): void {
  const { memory, run, between } = load();
  const inputAt = bank.coefficients.byteLength;
  const outputAt = inputAt + input.byteLength;
  const missing = outputAt + output.byteLength - memory.buffer.byteLength;
  if (missing > 0) memory.grow(Math.ceil(missing / PAGE_BYTES));
  if (loadedBank !== bank) {
    new Float32Array(memory.buffer, 0, bank.coefficients.length).set(bank.coefficients);
    loadedBank = bank;
  }
  new Float32Array(memory.buffer, inputAt, input.length).set(input);
  const inputByte = inputAt + place.at * 4;
  const { length: count } = output;
  const { phase, up } = place;
  const { taps, phases } = bank;
  const wholeBytes = Math.floor(place.down / up) * 4;
  const step = place.down % up;
  if (bank.exact) run(0, inputByte, outputAt, count, phase, taps, up, wholeBytes, step);
  else between(0, inputByte, outputAt, count, taps, wholeBytes, phase, up, step, phases);
  output.set(new Float32Array(memory.buffer, outputAt, output.length));
}
