/** What a call of `build` may ask for, as it was typed. */
export interface BuildOptions {
  project: string;
  brief?: string[];
  only?: string[];
  out: string;
  existing?: string;
  threads?: string;
  dryRun?: boolean;
  json?: boolean;
}
