/**
 * The decoder of AAC and ALAC that is used, and everything that is known of its package here. Its licence is less
 * clear than others' (docs/third-party-licences.md): to exchange it, this is the file.
 */
/** Decodes packets one after the other; free it when done. */
export interface PacketDecoder {
  /** `errors` counts packets that could not be decoded; the one that AAC keeps back is one of them. */
  decode(packets: Uint8Array | Uint8Array[]): {
    channelData: Float32Array[];
    sampleRate: number;
    errors?: number;
  };
  free(): void;
}

/** @param config AudioSpecificConfig (ISO/IEC 14496-3, 1.6.2.1) */
export async function aacDecoder(config: Uint8Array): Promise<PacketDecoder> {
  const { decoder } = await import('@audio/decode-aac');
  return decoder({ asc: config });
}

/** @param cookie the magic cookie of ALAC */
export async function alacDecoder(cookie: Uint8Array): Promise<PacketDecoder> {
  const { decoder } = await import('@audio/decode-aac');
  return decoder({ alac: cookie });
}
