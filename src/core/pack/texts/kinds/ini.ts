import { printable, type TextKind, type TextProblem } from '../kind';

export const iniText: TextKind = {
  id: 'ini',
  // What would begin a comment is escaped as most readers know it; nothing ends the line.
  escaped: (value) =>
    printable(value)
      .replace(/[\r\n\u0085\u2028\u2029]+/g, ' ')
      .replace(/[;#]/g, (sign) => `\\${sign}`),
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
      const key = /^([^=]+?)\s*=/.exec(line)?.[1];
      if (key === undefined) return say('an equals sign is missing');
      if (keys.has(key)) say(`“${key}” is there already in this section`);
      keys.add(key);
    });
    return problems;
  },
};
