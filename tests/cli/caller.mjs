/**
 * Takes many calls of the command line one after the other, each with its own folder: starting Node for each
 * would take longer than most of them. What is said about standard streams themselves is tried on real ones.
 */
import { main } from '../../dist/cli.mjs';

/** Collects what is written to a stream until it is asked for. */
function caught(stream) {
  let pieces = [];
  stream.write = (bytes, encoding, done) => {
    pieces.push(Buffer.from(bytes));
    (typeof encoding === 'function' ? encoding : done)?.();
    return true;
  };
  return () => {
    const whole = Buffer.concat(pieces);
    pieces = [];
    return whole.toString('base64');
  };
}

const out = caught(process.stdout);
const err = caught(process.stderr);

async function answer({ id, cwd, args, data }) {
  process.chdir(cwd);
  if (data === null) delete process.env.BIJOU_DATA;
  else process.env.BIJOU_DATA = data;
  const status = await main(args).catch((error) => `ended by ${error.stack}`);
  // The folder may lie on a disk that somebody takes away.
  process.chdir('/');
  process.send({ id, status, out: out(), err: err() });
}

// One at a time: the folder is that of the whole process.
let last = Promise.resolve();
process.on('message', (call) => {
  last = last.then(() => answer(call));
});
