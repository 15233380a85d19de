/** The WebAssembly build alone: the package's main entry prefers native code, whose bytes may differ. */
declare module '@evan/opus/wasm/index.mjs' {
  export class Encoder {
    constructor(options: {
      channels: 1 | 2;
      sample_rate: 8000 | 12000 | 16000 | 24000 | 48000;
      application: 'voip' | 'audio' | 'restricted_lowdelay';
    });
    /** libopus' controls (opus_encoder_ctl): sets one, or reads it without a value. */
    ctl(request: number, value?: number): number;
    /** One packet from interleaved 16-bit samples. */
    encode(samples: ArrayBufferView): Uint8Array;
    /** Gives its memory back. */
    drop(): void;
  }
}
