import type { EncodingPlan } from '../encoding';
import type { Tags } from '../marks';
import type { ListedFacts } from '../measure/probe';
import type { Wish } from '../oneOff/fit';
import { marksAfter } from '../recipe/recipe';
import { shapeOf, type Recipe } from '../recipe/types';
import type { Tempo } from '../tempo';
import { cueSheetOf, cueSheetText } from './cueSheet';
import { handoverForm, loopFiles, type LoopRole } from './files';
import { usualListeningForm, type ListeningWish } from './listening';
import type { LoopPiece } from './parts';

/** Which files of a loop are wanted together. */
export interface HandoverWish {
  /** Depth of the pieces; null for none of them. */
  bits: 16 | 24 | null;
  /** null for no copy to listen to. */
  listening: ListeningWish | null;
  /** How the copy is stored; an MP3 of 320 kbit/s where nothing is said. */
  listeningForm?: Wish | undefined;
  /** Tags that replace those of the source. */
  tags?: Tags | undefined;
}

/** What has to be known of the files of such a set when it is packed. */
export interface Handover {
  /** Of the sound. */
  name: string;
  tempo: Tempo | null;
  /** What each of its files is for, in their order. */
  roles: LoopRole[];
  repeatCarriesTail: boolean;
  /** Passes of the copy. */
  times: number | null;
}

/** A sound with a loop, as far as has to be known of it. */
interface HandedSound {
  name: string;
  sourceSha256: string;
  facts: ListedFacts;
  recipe: Recipe;
  tempo: Tempo | null;
}

/** How each file of a set is made. @throws as `loopFiles` */
export function handoverOf(sound: HandedSound, wish: HandoverWish) {
  const { name, sourceSha256, facts, recipe, tempo } = sound;
  const shape = shapeOf(facts);
  const form: Wish =
    wish.bits === null ? handoverForm(facts) : { writer: 'wav', settings: { bits: wish.bits } };
  const made = loopFiles(
    { shape, stored: facts, marks: facts, recipe },
    {
      whole: null,
      pieces: wish.bits === null ? null : form,
      listening: wish.listening && {
        times: wish.listening,
        form: wish.listeningForm ?? usualListeningForm,
      },
    },
  );
  const tags = wish.tags && Object.keys(wish.tags).length > 0 ? wish.tags : undefined;
  const files = made.map(({ mark, changes, writer, settings, recipe: own }) => {
    const plan: EncodingPlan = { sourceSha256, recipe: own, writer, settings, isCopy: false };
    return { mark, changes, plan: tags ? { ...plan, tags } : plan };
  });
  const handover: Handover = {
    name,
    tempo,
    roles: made.map(({ role }) => role),
    repeatCarriesTail: marksAfter(recipe, shape, facts).first !== null,
    times: wish.listening?.times ?? null,
  };
  return { files, handover, form };
}

/** A finished file of a set, or one that is on its way. */
interface SetFile {
  name: string;
  facts: Pick<ListedFacts, 'frames' | 'sampleRateHz' | 'channels'> | null;
}

/** The cue sheet of a set as names and texts; none before all of its pieces are there. */
export function cueSheets(
  { name, tempo, roles, repeatCarriesTail, times }: Handover,
  files: readonly SetFile[],
): [path: string, text: string][] {
  const listening = files[roles.indexOf('listening')];
  const pieces = files.flatMap(({ name: file, facts }, i) => {
    const role = roles[i]!;
    if (role === 'listening' || role === 'whole') return [];
    return [{ piece: role as LoopPiece, file, facts }];
  });
  const [first] = pieces;
  if (!first?.facts || pieces.some(({ facts }) => !facts)) return [];
  const sheet = cueSheetOf({
    ...{ name, tempo, repeatCarriesTail },
    sampleRateHz: first.facts.sampleRateHz,
    channels: first.facts.channels,
    pieces: pieces.map(({ piece, file, facts }) => ({ piece, file, frames: facts!.frames })),
    listeningCopy: listening && times ? { file: listening.name, times } : null,
  });
  const base = first.file.replace(/ (intro|first)\.wav$/, '');
  return [
    [`${base} cue.json`, `${JSON.stringify(sheet, null, 2)}\n`],
    [`${base} cue.txt`, cueSheetText(sheet)],
  ];
}
