import { kindOf } from './recipe';
import type { Recipe, Step } from './types';
import { plural } from '../words';

/** What was done to a recipe, in a few words for a history: "Add fade out", "Move gain". */
export function differenceTitle(before: Recipe, after: Recipe): string {
  const [old, now] = [before.steps, after.steps];
  const added = without(now, old);
  const removed = without(old, now);
  if (added.length === 0 && removed.length === 0) return 'Put steps in another order';
  if (removed.length === 0) return `Add ${names(added)}`;
  if (added.length === 0) return `Take out ${names(removed)}`;
  const [a, r] = [added[0]!, removed[0]!];
  if (added.length > 1 || removed.length > 1 || a.kind !== r.kind) return 'Change the recipe';
  if (a.on === r.on) return `Change ${nameOf(a)}`;
  return a.on ? `Switch ${nameOf(a)} on` : `Switch ${nameOf(a)} off`;
}

/** Those of a list that another does not have, counting alike ones. */
function without(list: readonly Step[], other: readonly Step[]): Step[] {
  const left = other.map((step) => JSON.stringify(step));
  return list.filter((step) => {
    const at = left.indexOf(JSON.stringify(step));
    if (at >= 0) left.splice(at, 1);
    return at < 0;
  });
}

function names(steps: readonly Step[]): string {
  return steps.length > 2 ? plural(steps.length, 'step') : steps.map(nameOf).join(' and ');
}

function nameOf(step: Step): string {
  const name = kindOf(step)?.name ?? `“${step.kind}”`;
  // Not what is an abbreviation.
  return /^[A-Z]{2}/.test(name) ? name : name[0]!.toLowerCase() + name.slice(1);
}
