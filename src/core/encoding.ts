import type { Tags } from './marks';
import { filledSettings, writerById } from './formats/write';
import { PROCESSING_VERSION } from './recipe/version';
import type { Recipe } from './recipe/types';

/** Everything that decides the bytes of a file that is made: whoever wants it, and for what, does not. */
export interface EncodingPlan {
  sourceSha256: string;
  recipe: Recipe;
  writer: string;
  settings: object;
  /** The source is handed on as it is: it is what is wanted already, and encoding it again would only lose. */
  isCopy: boolean;
  /** Tags that replace the source's; left out where these stay. */
  tags?: Tags | undefined;
  /**
   * True peak in dBTP above which the decoded file must not rise: it is encoded again, as much quieter as is needed.
   */
  heldDbtp?: number | undefined;
  /** Likewise for full scale: no sample of the decoded file may lie above it. */
  isHeldInside?: boolean | undefined;
}

/**
 * Tells plans apart that come to other bytes; the hash of it is the key of an encoding. Steps that are off and
 * settings that are left at their usual value make no difference.
 */
export function planText(plan: EncodingPlan): string {
  const { sourceSha256, recipe, writer, settings, isCopy, tags, heldDbtp, isHeldInside } = plan;
  if (isCopy) return JSON.stringify([sourceSha256, 'copy']);
  const kind = writerById(writer);
  const filled = Object.entries(filledSettings(kind, settings)).sort(([a], [b]) =>
    a < b ? -1 : 1,
  );
  return JSON.stringify([
    sourceSha256,
    recipe.steps.filter((step) => step.on),
    PROCESSING_VERSION,
    kind.version,
    Object.fromEntries(filled),
    ...(tags ? [tags] : []),
    ...(heldDbtp === undefined ? [] : [{ heldDbtp }]),
    ...(isHeldInside ? [{ isHeldInside }] : []),
  ]);
}

/** What is done to the sound to make the file, its last line: encoded or handed on. */
export function planEnd({ writer, settings, isCopy }: EncodingPlan): string {
  if (isCopy) return 'copy the file as it is: encoding it again would only lose';
  const kind = writerById(writer);
  return `encode with ${kind.describe(filledSettings(kind, settings))}`;
}
