import { encodeText } from '../formats/bits';
import { diskKey } from './diskKey';

/** Longest name of a file on every common disk, in bytes of UTF-8. */
const MOST_BYTES = 255;
/** What numbering takes, and an ending. */
const SPARE_BYTES = 25;
/** Names that one common system keeps for devices, whatever stands behind a dot or in small figures. */
const reserved = /^(con|prn|aux|nul|conin\$|conout\$|clock\$|com[\d¹²³]|lpt[\d¹²³])\s*(\.|$)/i;

/**
 * A name for people out of the name of a file from outside: its last part, without its ending,
 * without characters that cannot be printed, and of bearable length.
 */
export function soundNameFrom(fileName: string): string {
  const last = fileName.split(/[/\\]/).at(-1) ?? '';
  const dot = last.lastIndexOf('.');
  return soundName(dot > 0 ? last.slice(0, dot) : last);
}

/** A sound's name as somebody typed it: printable, of bearable length, never empty. */
export function soundName(typed: string): string {
  return tidy(typed) || 'sound';
}

/** Most names: nothing about them has to be looked at more closely. */
const plain = /^[\w-](?:[\w .-]*[\w-])?$/;

/** A name that is safe as a file's on every common system. */
export function safeFileName(name: string): string {
  const isPlain = name.length <= MOST_BYTES - SPARE_BYTES && plain.test(name);
  if (isPlain && !reserved.test(name)) return name;
  const safe = ends(tidy(name.replace(/[/\\:*?"<>|]/g, '-')));
  return safe === '' || reserved.test(safe) ? ends(tidy(`sound ${safe}`)) : safe;
}

/** Dots in front hide a file; dots and spaces at the end are lost on one common system. */
function ends(name: string): string {
  return name.replace(/^[. ]+|[. ]+$/g, '');
}

/** `name.extension`, numbered where `taken` (by what disks take for the same) has it already. */
export function freeName(name: string, extension: string, taken: Set<string>): string {
  const safe = safeFileName(name);
  for (let n = 1; ; n++) {
    const candidate = `${n === 1 ? safe : `${safe}-${n}`}.${extension}`;
    const key = diskKey(candidate);
    if (taken.has(key)) continue;
    taken.add(key);
    return candidate;
  }
}

/** `name`, numbered where `taken` has exactly that name already. */
export function freeSoundName(name: string, taken: readonly string[]): string {
  const others = new Set(taken);
  let free = name;
  for (let n = 2; others.has(free); n++) free = `${name} ${n}`;
  return free;
}

/** As many letters as take so many bytes. */
function textWithin(text: string, mostBytes: number): string {
  return new TextDecoder().decode(encodeText(text, mostBytes));
}

function tidy(text: string): string {
  // Control characters, and the marks that turn text round, can make a name look like another.
  const printable = text.normalize('NFC').replace(/[\p{Cc}\p{Cf}\p{Cs}\u2028\u2029]/gu, '');
  return textWithin(printable.trim(), MOST_BYTES - SPARE_BYTES).trim();
}
