import { BijouError } from '../../errors';
import { either } from '../../tradeNames';
import { assetList } from './assetList';
import { callIndex } from './calls';
import { cHeader } from './cHeader';
import { credits } from './credits';
import { cueSheets, cueText } from './cueSheet';
import { hostSettings } from './hostSettings';
import type { ManifestKind } from './kind';
import { musicMap } from './musicMap';
import { offsetSheet } from './offsets';

/** Every text that Bijou can write about a pack. */
export const manifestKinds: readonly ManifestKind[] = [
  assetList,
  callIndex,
  offsetSheet,
  cHeader,
  cueSheets,
  cueText,
  musicMap,
  credits,
  hostSettings,
];

/** @throws not-found */
export function manifestKind(id: string): ManifestKind {
  const kind = manifestKinds.find((one) => one.id === id);
  if (kind) return kind;
  throw new BijouError(
    'not-found',
    `There is no manifest "${id}".`,
    `Choose ${either(manifestKinds.map((one) => one.id))}.`,
  );
}
