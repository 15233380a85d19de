/** Nobody nests deeper; whoever walks through what is would run out of stack, and some engines end over that. */
export const MOST_DEPTH = 200;

const [QUOTE, BACKSLASH, OPEN_LIST, CLOSE_LIST, OPEN_OBJECT, CLOSE_OBJECT] = [...'"\\[]{}'].map(
  (sign) => sign.charCodeAt(0),
) as [number, number, number, number, number, number];

/** Whether brackets of a text that should be JSON stand in each other deeper than anybody needs. */
export function isNestedTooDeep(text: string): boolean {
  let depth = 0;
  let isInString = false;
  for (let i = 0; i < text.length; i++) {
    const sign = text.charCodeAt(i);
    if (isInString) {
      if (sign === BACKSLASH) i++;
      else if (sign === QUOTE) isInString = false;
    } else if (sign === QUOTE) isInString = true;
    else if (sign === OPEN_LIST || sign === OPEN_OBJECT) {
      if (++depth > MOST_DEPTH) return true;
    } else if (sign === CLOSE_LIST || sign === CLOSE_OBJECT) depth--;
  }
  return false;
}
