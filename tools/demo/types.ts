import type { Speaker } from '@/core/pcm/speakers';

/** One sound of the demo: how it is named, how it is stored, and how it is made. */
export interface DemoSound {
  fileName: string;
  group: string;
  rateHz: number;
  writer: 'wav' | 'mp3' | 'ogg';
  settings: object;
  /** Where they are another layout than the usual one of so many channels. */
  speakers?: readonly Speaker[];
  make(rateHz: number): Float32Array[];
}
