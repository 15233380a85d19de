import { languageIn, lineOf, missingLines, typedLanguage } from '@/core/brief/languages';

const spoken = (name: string, language: string | null, group = '') => ({ name, language, group });

test.each<[string, string, string | null]>([
  ['hello_de', '', 'de'],
  ['hello.fr', '', 'fr'],
  ['EN hello', '', 'en'],
  ['hello', 'voices/pl', 'pl'],
  // What is said by the nearest group counts before what the name says.
  ['hello_de', 'voices/fr', 'fr'],
  ['de', '', 'de'],
  ['model', '', null],
  ['garden', 'wide', null],
])('“%s” in “%s” is in %s', (name, group, language) => {
  expect(languageIn({ name, group })).toBe(language);
});

test('a line is the same in every language, whatever says which it is', () => {
  expect(lineOf(spoken('hello_de', 'de', 'voices'))).toBe('voices/hello');
  expect(lineOf(spoken('hello', 'de', 'voices/de'))).toBe('voices/hello');
  expect(lineOf(spoken('EN-hello', 'en', 'voices'))).toBe('voices/hello');
  expect(lineOf(spoken('de', 'de'))).toBe('de');
  expect(lineOf(spoken('model', 'el'))).toBe('model');
});

test('lines that are missing in a language are told, in order; others are none of its business', () => {
  const sounds = [
    spoken('hello_de', 'de'),
    spoken('hello_en', 'en'),
    spoken('bye_en', 'en'),
    spoken('ahoy_de', 'de'),
    spoken('ahoy_fr', 'fr'),
    spoken('surf', null),
  ];
  expect(missingLines(sounds, ['en', 'de'])).toEqual([
    { line: 'ahoy', there: ['de'], missing: ['en'] },
    { line: 'bye', there: ['en'], missing: ['de'] },
  ]);
  expect(missingLines(sounds, ['en', 'de', 'fr'])).toHaveLength(3);
});

test.each([
  ['de', 'de'],
  [' PT_br ', 'pt-br'],
  ['german!', null],
  ['', null],
])('typed as “%s” it is %s', (typed, language) => {
  expect(typedLanguage(typed)).toBe(language);
});
