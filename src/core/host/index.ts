import { BijouError } from '../errors';
import { either } from '../tradeNames';
import { filterStage } from './filter';
import type { HostKind } from './kind';
import { modIsland } from './mod';

/** Every stand-in of a destination. */
export const hosts: readonly HostKind[] = [filterStage, modIsland];

/** @throws not-found */
export function hostById(id: string): HostKind {
  const host = hosts.find((one) => one.id === id);
  if (host) return host;
  const known = either(hosts.map((one) => one.id));
  throw new BijouError('not-found', `There is no host "${id}".`, `Choose ${known}.`);
}
