/** Letters that nobody sees. */
const UNSEEN = /\p{Default_Ignorable_Code_Point}/gu;

const ASCII = /^[\x20-\x7e]*$/;

/**
 * Two paths with the same key may be one on a disk, or look like one: disks may be blind to case ("ß" is "SS" then), to
 * the forms that letters have in Unicode, and people are to letters that cannot be seen.
 */
export function diskKey(path: string): string {
  // Letters of ASCII have one form.
  if (ASCII.test(path)) return path.toLowerCase();
  return path.replace(UNSEEN, '').normalize('NFKC').toUpperCase().normalize('NFKC').toLowerCase();
}
