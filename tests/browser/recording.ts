import type { Browser, Page } from '@playwright/test';

/** A page of which everything that is heard is written down, sample by sample. */
export interface RecordedPage {
  page: Page;
  /** The channels of what was heard so far. */
  recorded(): Promise<Float32Array[]>;
  /** How many frames these are. */
  frames(): Promise<number>;
  /** At which frames of the recording keys were pressed. */
  pressed(): Promise<number[]>;
  close(): Promise<void>;
}

/** What is written down in the page: blocks of channels, the frame of each, and of every key. */
export interface Blocks {
  recorded: Float32Array[][];
  frames: number[];
  pressed: number[];
}

export async function recordedPage(browser: Browser, baseURL: string): Promise<RecordedPage> {
  // The recorder is a module of the test's own, which the page's policy would not let in.
  const context = await browser.newContext({
    baseURL,
    bypassCSP: true,
    viewport: { width: 1280, height: 800 },
  });
  const page = await context.newPage();
  await page.addInitScript(() => {
    const recorder = `registerProcessor('recorder', class extends AudioWorkletProcessor {
      process([input]) {
        if (input[0]) this.port.postMessage({ frame: currentFrame, channels: input.map((x) => x.slice()) });
        return true;
      }
    })`;
    const blocks: Blocks = { recorded: [], frames: [], pressed: [] };
    Object.assign(window, blocks);
    const { connect } = AnalyserNode.prototype;
    AnalyserNode.prototype.connect = function (this: AnalyserNode, ...args: unknown[]) {
      const url = URL.createObjectURL(new Blob([recorder], { type: 'text/javascript' }));
      void this.context.audioWorklet.addModule(url).then(() => {
        const node = new AudioWorkletNode(this.context, 'recorder');
        node.port.onmessage = ({
          data,
        }: MessageEvent<{ frame: number; channels: Float32Array[] }>) => {
          blocks.frames.push(data.frame);
          blocks.recorded.push(data.channels);
        };
        const { context } = this;
        addEventListener(
          'keydown',
          () => blocks.pressed.push(Math.round(context.currentTime * context.sampleRate)),
          { capture: true },
        );
        (connect as (to: AudioNode) => AudioNode).call(this, node);
        Object.assign(window, { isRecording: true });
      });
      return (connect as (...all: unknown[]) => AudioNode).apply(this, args);
    } as typeof connect;
  });
  return {
    page,
    frames: () =>
      page.evaluate(() =>
        (window as unknown as Blocks).recorded.reduce((sum, [block]) => sum + block!.length, 0),
      ),
    pressed: () =>
      page.evaluate(() => {
        const { pressed, frames, recorded } = window as unknown as Blocks;
        // While nothing sounds nothing is written down: frames of the context are not those of the recording.
        return pressed.map((key) =>
          recorded.reduce((sum, [block], i) => sum + (frames[i]! < key ? block!.length : 0), 0),
        );
      }),
    async recorded() {
      const channels = await page.evaluate(async () => {
        const { recorded } = window as unknown as Blocks;
        const count = Math.max(0, ...recorded.map((block) => block.length));
        // As text: a million numbers one by one take a quarter of a minute.
        const text = (blob: Blob) =>
          new Promise<string>((done) => {
            const reader = new FileReader();
            reader.onload = () => done(String(reader.result).split(',')[1]!);
            reader.readAsDataURL(blob);
          });
        // What was not heard yet has one silent channel.
        const parts = (c: number) => recorded.map((block) => block[c] ?? block[0]!) as BlobPart[];
        return Promise.all(Array.from({ length: count }, (_, c) => text(new Blob(parts(c)))));
      });
      return channels.map((channel) => {
        const bytes = Buffer.from(channel, 'base64');
        return new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4).slice();
      });
    },
    close: () => context.close(),
  };
}

/** Until it is written down what is heard: the browser hands the sound over to another thread then. */
export async function isRecording(page: Page): Promise<void> {
  await page.waitForFunction(() => 'isRecording' in window);
  await page.waitForTimeout(1_000);
}
