import { chromium, type Browser, type Page } from '@playwright/test';
import wavefile from 'wavefile';
import { chromiumPath } from '../../scripts/setUp.mjs';

/**
 * Decoders that the product does not use: those of Debian's Chromium for everything that browsers play, and a
 * package for WAV with IMA ADPCM.
 */
export class ForeignDecoders {
  private constructor(
    private readonly page: Page,
    private readonly browser: Browser | null,
  ) {}

  /** On a page that is there, or in a browser of its own. */
  static async open(page?: Page): Promise<ForeignDecoders> {
    if (page) return new ForeignDecoders(page, null);
    const browser = await chromium.launch({
      executablePath: chromiumPath(),
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
    });
    return new ForeignDecoders(await browser.newPage(), browser);
  }

  async close(): Promise<void> {
    await this.browser?.close();
  }

  /** Whole channels; null for formats that no decoder here reads. */
  async decode(container: string, codec: string, bytes: Uint8Array, rateHz: number) {
    if (codec === 'ima-adpcm') return decodeIma(bytes);
    // What the browser's contexts take, and what its FLAC does.
    const isTooMuch = rateHz < 3_000 || (container === 'flac' && rateHz > 655_350);
    return played.has(container) && !isTooMuch ? this.inBrowser(bytes, rateHz) : null;
  }

  private async inBrowser(bytes: Uint8Array, rateHz: number): Promise<Float32Array[]> {
    const base64 = Buffer.from(bytes).toString('base64');
    const decoded = await this.page.evaluate(
      async ([text, rate]) => {
        const input = Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
        // A context of the file's own rate resamples nothing.
        const context = new OfflineAudioContext(1, 1, rate);
        const found = await context.decodeAudioData(input.buffer);
        return Array.from({ length: found.numberOfChannels }, (_, c) => {
          const channel = new Uint8Array(found.getChannelData(c).slice().buffer);
          let letters = '';
          for (let i = 0; i < channel.length; i += 0x8000) {
            letters += String.fromCharCode(...channel.subarray(i, i + 0x8000));
          }
          return btoa(letters);
        });
      },
      [base64, rateHz] as const,
    );
    return decoded.map((text) => {
      const raw = Buffer.from(text, 'base64');
      return new Float32Array(new Uint8Array(raw).buffer);
    });
  }
}

/** Containers that browsers play. */
const played = new Set(['wav', 'flac', 'mp3', 'ogg', 'webm', 'mp4']);

function decodeIma(bytes: Uint8Array): Float32Array[] | null {
  const file = new wavefile.WaveFile(bytes);
  // The package knows mono alone.
  if ((file.fmt as { numChannels: number }).numChannels !== 1) return null;
  file.fromIMAADPCM();
  return [Float32Array.from(file.getSamples() as Float64Array, (x) => x / 32_768)];
}
