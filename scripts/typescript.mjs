/** `node --import`: lets Node load this project's TypeScript as it is, in worker threads too. */
import { register } from 'node:module';

register('./typescriptHooks.mjs', import.meta.url);
