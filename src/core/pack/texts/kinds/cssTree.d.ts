/** The parser and the tokenizer alone: the whole package reads all that is known of CSS when it is loaded. */
declare module 'css-tree/parser' {
  import type { parse } from 'css-tree';
  const parser: typeof parse;
  export default parser;
}

declare module 'css-tree/tokenizer' {
  export { tokenize, tokenNames } from 'css-tree';
}
