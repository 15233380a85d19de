import type { Faults, Fields } from './bytes';

/** A comment block of Vorbis, Opus or FLAC that fills its span, but for `behind` bytes. */
export function checkComments(
  file: Fields,
  from: number,
  size: number,
  faults: Faults,
  behind = 0,
): void {
  let at = from;
  const text = () => {
    const length = file.le32(at);
    at += 4 + length;
    return new TextDecoder('utf-8', { fatal: true }).decode(file.part(at - length, length));
  };
  text();
  const count = file.le32(at);
  at += 4;
  for (let i = 0; i < count; i++) {
    const comment = text();
    faults.must(`a comment "${comment.slice(0, 20)}"`, /^[\x20-\x3c\x3e-\x7d]+=/.test(comment));
  }
  faults.same('the end of the comments', at + behind, from + size);
}
