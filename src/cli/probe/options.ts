/** What a call of `probe` may ask for, as it was typed. */
export interface ProbeOptions {
  json?: boolean;
  jsonLines?: boolean;
  clicks?: boolean;
  csv?: boolean;
  raw?: string;
  threads?: string;
}

/** What a call of `check` may ask for. */
export interface CheckOptions {
  brief?: string;
  json?: boolean;
}
