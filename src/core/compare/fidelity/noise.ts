import { powerToDb } from '../../measure/decibels';
import type { Block } from '../../pcm/pcm';

/** The difference of the waveforms, decoded minus source. */
export interface NoiseFigures {
  /** Against the power of the source, in dB; null where nothing differs, or where the source is silent. */
  noiseDb: number | null;
  /** Against full scale (root mean square over all channels), in dB; null where nothing differs. */
  noiseDbfs: number | null;
  /** Likeness of the waveforms, −1 (polarity turned) to 1; null where a side is silent. */
  likeness: number | null;
}

export class NoiseMeter {
  private source = 0;
  private decoded = 0;
  private product = 0;
  private noise = 0;
  private samples = 0;

  push(source: Block, decoded: Block): void {
    source.forEach((own, c) => {
      const other = decoded[c]!;
      let [source2, decoded2, product, noise] = [0, 0, 0, 0];
      for (let i = 0; i < own.length; i++) {
        const [x, y] = [own[i]!, other[i]!];
        source2 += x * x;
        decoded2 += y * y;
        product += x * y;
        noise += (y - x) * (y - x);
      }
      this.source += source2;
      this.decoded += decoded2;
      this.product += product;
      this.noise += noise;
      this.samples += own.length;
    });
  }

  result(): NoiseFigures {
    const both = Math.sqrt(this.source * this.decoded);
    return {
      noiseDb: this.source > 0 ? powerToDb(this.noise / this.source) : null,
      noiseDbfs: powerToDb(this.noise / Math.max(1, this.samples)),
      likeness: both > 0 ? Math.max(-1, Math.min(1, this.product / both)) : null,
    };
  }
}
