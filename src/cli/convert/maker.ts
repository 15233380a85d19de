import { mkdir } from 'node:fs/promises';
import { basename, dirname, extname } from 'node:path';
import { pieces } from '@/core/bytes/source';
import type { ListedFacts } from '@/core/measure/probe';
import { encodeText } from '@/core/formats/bits';
import { putInPlace, withFile, writeTemporary } from '@/server/files/bytes';
import type { Batch, Input } from '../batch/batch';
import type { Looked, Making } from '../batch/tasks';
import { clearDead, dropTemporary, systemWorkFolder, temporaryIn } from '../disk/temporaries';
import { STANDARD } from '../inputs';
import { harmlessName, pour } from '../output';
import { factsJson } from '../report';

/** One result that is to be made of a file. */
export interface Wanted {
  making: Making;
  output: string;
  /** What cannot stay as the source has it: said for all files together. */
  changes: string[];
  /** What else is worth a word about this one. */
  remarks: string[];
  /** What is only known when it is there. */
  remarksOnResult?(facts: ListedFacts): string[];
}

/** A result that is in its place. */
export interface MadeResult {
  bytes: number;
  facts: ListedFacts;
  line: string;
  data: object;
  warnings: string[];
}

/** Makes the results of one call, each under a temporary name first. */
export class Maker {
  /** Folders of results, each once. */
  private readonly folders = new Map<string, Promise<void>>();

  constructor(
    private readonly batch: Batch,
    private readonly overwrite: boolean,
  ) {}

  async make(input: Input, looked: Looked, wanted: Wanted): Promise<MadeResult> {
    const { file, place } = input;
    const { making, output, changes, remarks } = wanted;
    const toStandard = output === STANDARD;
    const folder = toStandard ? await systemWorkFolder() : await this.folderOf(output);
    const temporary = temporaryIn(folder);
    const unfinished = toStandard ? folder : temporary;
    try {
      const { facts, warnings } = await this.batch.do(input, {
        kind: 'convert',
        place,
        change: looked.change,
        making,
        output: toStandard ? null : output,
        temporary,
        overwrite: this.overwrite,
      });
      if (toStandard) {
        await withFile(temporary, async (result) => {
          for await (const piece of pieces(result)) await pour(piece);
        });
      }
      const { bytes } = facts;
      const own = wanted.remarksOnResult?.(facts) ?? [];
      const said = [...warnings.map(({ message }) => message), ...own];
      return {
        bytes,
        facts,
        line:
          `${harmlessName(file.path)} → ${harmlessName(output)}  ${looked.bytes} → ${bytes} bytes  ` +
          ratioOf(looked.bytes, bytes),
        data: {
          ...factsJson(file.path, facts),
          output,
          sourceBytes: looked.bytes,
          ratio: bytes / looked.bytes,
          notes: [...changes, ...remarks, ...said],
        },
        warnings: [...said, ...remarks],
      };
    } finally {
      await dropTemporary(temporary);
      await dropTemporary(unfinished);
    }
  }

  /** Writes a text beside the results. @throws already-there */
  async putText(path: string, text: string): Promise<void> {
    const temporary = temporaryIn(dirname(path));
    try {
      await writeTemporary(temporary, (sink) => sink.write(encodeText(text)));
      await putInPlace(temporary, path, this.overwrite);
    } finally {
      await dropTemporary(temporary);
    }
  }

  /** Where a result belongs: made if it is not there, and cleared of what ended calls left. */
  private folderOf(output: string): Promise<string> {
    const folder = dirname(output);
    const ready =
      this.folders.get(folder) ?? mkdir(folder, { recursive: true }).then(() => clearDead(folder));
    this.folders.set(folder, ready);
    return ready.then(() => folder);
  }
}

export function ratioOf(before: number, after: number): string {
  return `÷ ${(before / after).toFixed(2)} (${((after / before) * 100).toFixed(1)} %)`;
}

/** An array in C is called after its file. */
export function named(writer: string, settings: object, output: string): object {
  if (writer !== 'c') return settings;
  const name = basename(output, extname(output))
    .replace(/[^A-Za-z0-9_]/g, '_')
    .slice(0, 60);
  return { ...settings, name: /^[A-Za-z_]/.test(name) ? name : `sound_${name}` };
}

/** Said of a result whose name another one of its call has taken. */
export const NUMBERED = 'Numbered: another result of this call has that name.';
