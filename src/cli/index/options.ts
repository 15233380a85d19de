/** What a call of `index check` may ask for, as it was typed. */
export interface IndexOptions {
  root?: string;
  mend?: boolean;
  json?: boolean;
}
