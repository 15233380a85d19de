/** What the files of packs that are no sounds are to a browser. */
const types: Record<string, string> = {
  json: 'application/json; charset=utf-8',
  yaml: 'application/yaml; charset=utf-8',
  yml: 'application/yaml; charset=utf-8',
  xml: 'application/xml; charset=utf-8',
  html: 'text/html; charset=utf-8',
  css: 'text/css; charset=utf-8',
  csv: 'text/csv; charset=utf-8',
  png: 'image/png',
};

/** By the ending of a name; everything that is not known is plain text, for nothing else is written here. */
export function mimeTypeOf(path: string): string {
  const ending = /\.([^./]+)$/.exec(path)?.[1]?.toLowerCase() ?? '';
  return types[ending] ?? 'text/plain; charset=utf-8';
}
