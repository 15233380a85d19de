/**
 * Runs this project's Jest tests for Stryker inside of its own process: test files are loaded once, and for each
 * mutant only the tests that come past it are run. Jest's own runner would load everything anew for each, in a
 * context that is ten times as slow (docs/decisions/038-tests-run-plainly.md).
 */
import { resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { jestExpect as expect } from '@jest/expect';
import { declareClassPlugin, PluginKind, commonTokens, tokens } from '@stryker-mutator/api/plugin';
import fc from 'fast-check';
import * as circus from 'jest-circus';

const { afterAll, afterEach, beforeAll, beforeEach, describe, it, test } = circus;
Object.assign(globalThis, {
  afterAll,
  afterEach,
  beforeAll,
  beforeEach,
  describe,
  expect,
  it,
  test,
});

// Whether a fault is noticed is asked here, not by how small an example.
fc.configureGlobal({ endOnFailure: true });

/** What the mutated code looks at. It keeps the object, so only its fields are changed. */
const stryker = (globalThis.__stryker__ ??= {});

class PlainRunner {
  static inject = tokens(commonTokens.options);
  /** Root blocks of the test files, by path. */
  files = new Map();

  constructor(options) {
    this.testFiles = options.plain.testFiles;
  }

  capabilities() {
    return { reloadEnvironment: false };
  }

  async load() {
    for (const file of this.testFiles) {
      if (this.files.has(file)) continue;
      circus.resetState();
      await import(pathToFileURL(resolve(file)).href);
      this.files.set(file, circus.getState().rootDescribeBlock);
    }
  }

  async dryRun() {
    stryker.activeMutant = undefined;
    stryker.mutantCoverage = { static: {}, perTest: {} };
    stryker.currentTestId = undefined;
    await this.load();
    const results = [];
    for (const [file, root] of this.files) {
      await runBlock(root, [file], {
        isWanted: () => true,
        done: (result) => void results.push(result) || true,
      });
    }
    stryker.currentTestId = undefined;
    return { status: 'complete', tests: results, mutantCoverage: stryker.mutantCoverage };
  }

  async mutantRun({ testFilter, activeMutant, hitLimit, mutantActivation }) {
    stryker.mutantCoverage = undefined;
    stryker.currentTestId = undefined;
    stryker.hitCount = hitLimit === undefined ? undefined : 0;
    stryker.hitLimit = hitLimit;
    stryker.activeMutant = mutantActivation === 'static' ? activeMutant.id : undefined;
    try {
      await this.load();
      stryker.activeMutant = activeMutant.id;
      const wanted = testFilter && new Set(testFilter);
      let ran = 0;
      let killer = null;
      for (const [file, root] of this.files) {
        await runBlock(root, [file], {
          isWanted: (id) => !killer && (wanted?.has(id) ?? true),
          done(result) {
            ran++;
            if (result.status === 'failed') killer ??= result;
            return killer === null;
          },
        });
        if (killer) break;
      }
      if (killer && stryker.hitCount > stryker.hitLimit) {
        return { status: 'timeout', reason: `Hit limit reached (${stryker.hitCount})` };
      }
      return killer
        ? {
            status: 'killed',
            killedBy: [killer.id],
            failureMessage: killer.failureMessage,
            nrOfTests: ran,
          }
        : { status: 'survived', nrOfTests: ran };
    } catch (error) {
      // A test file that cannot even be loaded has noticed.
      return {
        status: 'killed',
        killedBy: [this.testFiles[0]],
        failureMessage: String(error),
        nrOfTests: 1,
      };
    } finally {
      stryker.activeMutant = undefined;
    }
  }
}

/** Runs the wanted tests of a block, with its hooks only where one of them is in it. */
async function runBlock(block, names, { isWanted, done }) {
  const idOf = (name) => [...names, name].join(' › ');
  const isIn = (one, path) =>
    one.children.some((child) =>
      child.type === 'describeBlock'
        ? isIn(child, [...path, child.name])
        : isWanted([...path, child.name].join(' › ')),
    );
  if (!isIn(block, names)) return;
  const broken = await hooks(block, 'beforeAll');
  for (const child of block.children) {
    if (child.mode === 'skip') continue;
    if (child.type === 'describeBlock') {
      await runBlock(child, [...names, child.name], { isWanted, done });
      continue;
    }
    const id = idOf(child.name);
    if (!isWanted(id)) continue;
    stryker.currentTestId = id;
    const began = performance.now();
    const error = broken ?? (await runTest(block, child));
    const timeSpentMs = Math.round(performance.now() - began);
    stryker.currentTestId = undefined;
    const result = error
      ? { status: 'failed', failureMessage: String(error?.message ?? error) }
      : { status: 'success' };
    if (!done({ id, name: id, timeSpentMs, fileName: names[0], ...result })) break;
  }
  await hooks(block, 'afterAll');
}

async function runTest(block, { fn }) {
  expect.setState({ suppressedErrors: [], assertionCalls: 0 });
  const blocks = [];
  for (let one = block; one; one = one.parent) blocks.unshift(one);
  try {
    for (const one of blocks) await throwing(hooks(one, 'beforeEach'));
    await fn();
    for (const one of blocks.reverse()) await throwing(hooks(one, 'afterEach'));
    return expect.getState().suppressedErrors[0] ?? null;
  } catch (error) {
    return error ?? new Error('it failed');
  }
}

async function hooks(block, kind) {
  for (const { type, fn } of block.hooks) {
    if (type !== kind) continue;
    try {
      await fn();
    } catch (error) {
      return error ?? new Error(`${kind} failed`);
    }
  }
  return null;
}

async function throwing(failing) {
  const error = await failing;
  if (error) throw error;
}

export const strykerPlugins = [declareClassPlugin(PluginKind.TestRunner, 'plain', PlainRunner)];
