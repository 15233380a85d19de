/** What a call of `rehearse` may ask for, as it was typed. */
export interface RehearseOptions {
  host: string;
  folder?: string;
  json?: boolean;
}
