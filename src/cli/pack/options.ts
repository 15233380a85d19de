/** What a call of `pack` may ask for, as it was typed. */
export interface PackOptions {
  project: string;
  brief: string[];
  out: string;
  title?: string;
  icon?: string;
  since?: string;
  work?: string;
  overwrite?: boolean;
  threads?: string;
  json?: boolean;
}
