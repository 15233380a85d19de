import { printable, type TextKind, type TextProblem } from '../kind';
import { allIn, type Standing, type StandIns } from '../standIns';

export const iniText: TextKind = {
  id: 'ini',
  // What would begin a comment is escaped as most readers know it; nothing ends the line.
  escaped: (value) =>
    printable(value)
      .replace(/[\r\n\u0085\u2028\u2029]+/g, ' ')
      .replace(/[;#]/g, (sign) => `\\${sign}`),
  standings: standingsIn,
  problems(text) {
    const problems: TextProblem[] = [];
    const sections = new Set<string>();
    let keys = new Set<string>();
    text.split(/\r?\n/).forEach((whole, i) => {
      const say = (message: string, column = whole.search(/\S/) + 1) =>
        problems.push({ line: i + 1, column, message });
      const line = whole.trim();
      if (line === '' || /^[;#]/.test(line)) return;
      if (line.startsWith('[')) {
        const name = /^\[([^[\]]+)\]$/.exec(line)?.[1];
        if (name === undefined) return say('the section’s name is not in square brackets');
        if (sections.has(name)) say(`the section [${name}] is there already`);
        sections.add(name);
        keys = new Set();
        return;
      }
      const equals = line.indexOf('=');
      if (equals < 1) return say('an equals sign is missing');
      const key = line.slice(0, equals).trimEnd();
      if (keys.has(key)) say(`“${key}” is there already in this section`);
      keys.add(key);
    });
    return problems;
  },
};

/** Behind an equals sign and in comments: neither ends before its line does. */
function* standingsIn(text: string, words: StandIns): Generator<Standing> {
  for (const line of text.split('\n')) {
    const isComment = /^\s*[;#]/.test(line);
    const equals = isComment ? 0 : line.indexOf('=');
    if (equals < 0 || line.trimStart().startsWith('[')) yield* allIn(words, line, NOT_BEHIND);
    else {
      yield* allIn(words, line.slice(0, equals), NOT_BEHIND);
      yield* allIn(words, line.slice(equals));
    }
  }
}

const NOT_BEHIND = {
  message: 'a value cannot be the name of a section or a key',
  cure: 'Write the name itself, and the value behind an equals sign.',
};
