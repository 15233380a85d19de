import type { LayoutSlot } from '../brief/layout';
import type { Brief, BriefFile } from '../brief/schema';
import { plural } from '../words';
import { wrong, type PartTrouble } from './troubles';

/** A slot with the sounds that are meant to fill it: one is right. */
export interface SlotState extends LayoutSlot {
  soundIds: number[];
}

/** A sound as far as slots have to know it. */
export interface SlottedSound {
  soundId: number;
  name: string;
  group: string;
  slots: readonly string[];
}

/** Which of a brief's files lies in a slot: that with its ending, else the only one. */
export function fileOfSlot({ files }: Pick<Brief, 'files'>, path: string): BriefFile | undefined {
  const ending = endingOf(path);
  const fitting = files.find(({ extension }) => extension.toLowerCase() === ending);
  return fitting ?? (files.length === 1 && ending === '' ? files[0] : undefined);
}

export function slotStates(
  slots: readonly LayoutSlot[],
  sounds: readonly SlottedSound[],
): SlotState[] {
  const filled = new Map<string, number[]>();
  for (const { soundId, slots: own } of sounds) {
    for (const path of new Set(own)) filled.set(path, [...(filled.get(path) ?? []), soundId]);
  }
  return slots.map((slot) => ({ ...slot, soundIds: filled.get(slot.path) ?? [] }));
}

/** Slots that are empty or filled twice, and sounds that ask for a slot that there is not. */
export function slotTroubles(
  slots: readonly LayoutSlot[],
  sounds: readonly SlottedSound[],
): PartTrouble[] {
  const known = new Set(slots.map(({ path }) => path));
  const states = slotStates(slots, sounds).flatMap(({ path, title, isOptional, soundIds }) => {
    const named = title ? `${path} (${title})` : path;
    if (soundIds.length > 1) {
      const message = `${plural(soundIds.length, 'sound')} are meant for ${named}.`;
      return [wrong('slot', message, 'Take all but one out of the slot.', { path })];
    }
    if (soundIds.length > 0 || isOptional) return [];
    return [wrong('slot', `Nothing fills ${named}.`, 'Give it a sound.', { path })];
  });
  const lost = sounds.flatMap(({ soundId, name, slots: own }) =>
    own
      .filter((path) => !known.has(path))
      .map((path) =>
        wrong(
          'slot',
          `“${name}” is meant for ${path}, which is no slot here.`,
          'Choose another one.',
          {
            path,
            soundId,
          },
        ),
      ),
  );
  return [...states, ...lost];
}

/** Which sound would fill which empty slot by its name: the slot's own, with or without its folder and group. */
export function slotsByName(
  slots: readonly LayoutSlot[],
  sounds: readonly SlottedSound[],
): { path: string; soundId: number }[] {
  const byName = new Map<string, number | null>();
  for (const { soundId, name, group } of sounds) {
    for (const key of new Set([plain(name), plain(`${group}/${name}`)])) {
      // Two of one name: nobody can say which is meant.
      byName.set(key, byName.has(key) && byName.get(key) !== soundId ? null : soundId);
    }
  }
  return slotStates(slots, sounds).flatMap(({ path, title, soundIds }) => {
    if (soundIds.length > 0) return [];
    const names = [path, path.split('/').at(-1)!, title ?? ''].map((text) =>
      plain(text.replace(/\.[^./]*$/, '')),
    );
    const words = names.flatMap((name) => [name, name.split('_').slice(1).join('_')]);
    const soundId = words.map((name) => name && byName.get(name)).find(Boolean);
    return soundId ? [{ path, soundId }] : [];
  });
}

function plain(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '_')
    .replace(/^_+|_+$/g, '');
}

function endingOf(path: string): string {
  const name = path.split('/').at(-1)!;
  const dot = name.lastIndexOf('.');
  return dot > 0 ? name.slice(dot + 1).toLowerCase() : '';
}
