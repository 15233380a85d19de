import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import ts from 'typescript';

const src = resolve('src');

/** Every file below `src`, by its path, with the files of `src` that it imports, types too. */
function importsOfAll(): Map<string, string[]> {
  const files = readdirSync(src, { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.tsx?$/.test(name))
    .map((name) => join(src, name));
  const known = new Set(files);
  const found = (path: string) =>
    [path, `${path}.ts`, `${path}.tsx`, join(path, 'index.ts')].find((one) => known.has(one));
  return new Map(
    files.map((file) => {
      const { importedFiles } = ts.preProcessFile(readFileSync(file, 'utf8'), true, true);
      const paths = importedFiles.flatMap(({ fileName }) => {
        if (fileName.startsWith('@/')) return found(join(src, fileName.slice(2))) ?? [];
        return fileName.startsWith('.') ? (found(resolve(dirname(file), fileName)) ?? []) : [];
      });
      return [file, paths];
    }),
  );
}

/** Groups of files that lead to one another, after Tarjan. */
function circles(imports: ReadonlyMap<string, readonly string[]>): string[][] {
  const order = new Map<string, number>();
  const low = new Map<string, number>();
  const path: string[] = [];
  const found: string[][] = [];
  const visit = (file: string): void => {
    order.set(file, order.size);
    low.set(file, order.get(file)!);
    path.push(file);
    for (const next of imports.get(file) ?? []) {
      if (!order.has(next)) visit(next);
      if (path.includes(next)) low.set(file, Math.min(low.get(file)!, low.get(next)!));
    }
    if (low.get(file) !== order.get(file)) return;
    const circle = path.splice(path.indexOf(file));
    const isCircle = circle.length > 1 || imports.get(file)?.includes(file);
    if (isCircle) found.push(circle.map((one) => relative(src, one)).sort());
  };
  for (const file of imports.keys()) if (!order.has(file)) visit(file);
  return found;
}

test('no files import each other in a circle', () => {
  const imports = importsOfAll();
  expect(imports.size).toBeGreaterThan(300);
  expect(circles(imports)).toEqual([]);
});

test('a circle would be seen', () => {
  const imports = new Map([
    ['a', ['b']],
    ['b', ['c', 'd']],
    ['c', ['a']],
    ['d', []],
  ]);
  expect(circles(imports).map((circle) => circle.length)).toEqual([3]);
});
