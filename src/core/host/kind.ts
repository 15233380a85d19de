import type { ByteSource } from '../bytes/source';
import type { Loop } from '../marks';
import type { Check, Checking } from './checks';
import type { FoundPack } from './pack';

/** A sound that a host has taken in. */
export interface LoadedSound {
  /** What the host calls it: its path without the ending. */
  id: string;
  file: string;
  bytes: number;
  /** CRC-32 of its bytes: tells whether it is still the same file. */
  checksum: number;
  container: string;
  codec: string;
  rateHz: number;
  channels: number;
  frames: number;
  seconds: number;
  /** As the file itself marks it. */
  loop: Loop | null;
}

/** A sound with its bytes, for those who are to hear it. */
export interface OpenSound {
  sound: LoadedSound;
  open(): Promise<ByteSource>;
}

/** What a host has made of a pack: the sounds that it took, and what is its own. */
export interface Taken<Scene> {
  sounds: OpenSound[];
  scene: Scene;
}

/** One stand-in of a destination, with everything about it but its picture and its sound. */
export interface HostKind<Scene = unknown> {
  id: string;
  /** Changed whenever its rules are. */
  version: number;
  title: string;
  /** In a sentence: what it stands in for. */
  about: string;
  /** The id of the built-in brief that is made for it. */
  briefId: string;
  /** Its rules by their ids, as people call them. */
  rules: Readonly<Record<string, string>>;
  /** Whether a pack looks as if it were meant for it, right or not. */
  isMeant(pack: FoundPack): boolean;
  /** Takes a pack in by its rules, file by file; null where nothing can be taken. */
  take(pack: FoundPack, checking: Checking): Promise<Taken<Scene> | null>;
  /** What is other in its own part of a pack that was loaded again, in sentences. */
  changes(before: Scene, now: Scene): string[];
}

/** What came of bringing a pack to a host. */
export interface Rehearsal {
  host: string;
  hostVersion: number;
  accepted: boolean;
  checks: Check[];
  sounds: LoadedSound[];
}
