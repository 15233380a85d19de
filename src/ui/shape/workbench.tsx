'use client';

import {
  createContext,
  useContext,
  useLayoutEffect,
  useMemo,
  useState,
  type ReactNode,
} from 'react';
import { toast } from 'sonner';
import { withKept } from '@/core/recipe/kept';
import { kindOf, recipeKey, walkRecipe, type WalkedStep } from '@/core/recipe/recipe';
import { spanThrough, traceRecipe, type Trace } from '@/core/recipe/trace';
import {
  emptyRecipe,
  shapeOf as statedShape,
  type Recipe,
  type Shape,
  type Step,
} from '@/core/recipe/types';
import type { ErrorFacts } from '@/core/errors';
import type { Sound } from '@/wire';
import type { Pictured } from '../waveform/tiles';
import { useChange } from '../shared/useChange';
import { sourceOf, type Asked } from './ask';
import { layOut, useDesk, type Span } from './desk';

/** The sound that is shaped, with its recipe as it is on the screen. */
interface Workbench {
  sound: Sound;
  source: Shape;
  recipe: Recipe;
  walked: WalkedStep[];
  /** Behind every step that can be done. */
  result: Shape;
  /** The first step that cannot be done. */
  problem: ErrorFacts | null;
  trace: Trace;
  /** Place of the step that sets the loop; null where none does that can be done. */
  loopAt: number | null;
  /** What the picture shows: its shape, its picture, and how to ask about it. */
  shown: { shape: Shape; pictured: Pictured; asked: Asked };
  /** Puts a recipe in place: at once on the screen, then on the server. */
  save(recipe: Recipe): void;
  /** Adds a step behind all others; says why when it cannot be done there. */
  add(step: Step): boolean;
  /** The marked part as the result has it; says why there is none. */
  markInResult(): { startFrame: number; endFrame: number } | null;
  /** Keeps only the marked part. */
  keep(span: Span): void;
}

const Context = createContext<Workbench | null>(null);

export function useWorkbench(): Workbench {
  const bench = useContext(Context);
  if (!bench) throw new Error('used outside of the workbench');
  return bench;
}

export function WorkbenchProvider({ sound, children }: { sound: Sound; children: ReactNode }) {
  const { recipe, save } = useRecipe(sound);
  const wanted = useDesk((desk) => desk.shown);
  const isWanted = wanted === 'shaped';
  const source = useMemo(() => shapeOf(sound), [sound]);
  const read = useMemo(() => readRecipe(recipe, source), [recipe, source]);
  // What cannot be made cannot be shown.
  const isShaped = isWanted && !read.problem;
  const shown = useMemo(() => {
    if (wanted === 'loop' && read.loopAt !== null) {
      const steps = recipe.steps.slice(0, read.loopAt);
      return shapedShown(sound, { ...recipe, steps }, read.walked[read.loopAt]!.before);
    }
    return isShaped ? shapedShown(sound, recipe, read.result) : sourceShown(sound);
  }, [wanted, isShaped, sound, recipe, read]);
  const { id, sourceSha256 } = sound;
  // Another source under the same sound is laid out anew, before any key can be pressed on it.
  useLayoutEffect(() => layOut(id, source.frames), [id, sourceSha256, source.frames]);
  useLayoutEffect(() => {
    if (!isWanted || isShaped) return;
    useDesk.setState({ shown: 'source', view: { start: 0, end: source.frames }, mark: null });
  }, [isWanted, isShaped, source.frames]);
  useLayoutEffect(() => keepInside(shown.shape.frames), [shown.shape.frames]);

  const add = (step: Step): boolean => {
    const whole = { ...recipe, steps: [...recipe.steps, step] };
    const problem = walkRecipe(whole, source).at(-1)?.problem;
    if (problem) toast.error(problem.message, { description: problem.hint });
    else save(whole);
    return !problem;
  };
  const markInResult = () => {
    const { mark } = useDesk.getState();
    if (!mark) {
      toast.error('Nothing is marked.', { description: 'Drag over the waveform, or type a span.' });
      return null;
    }
    const span = { startFrame: mark.start, endFrame: mark.end };
    if (isShaped) return span;
    const through = spanThrough(read.trace, span, read.result.frames);
    if (!through) {
      toast.error('That part is cut away already.', {
        description: 'Mark something that is left, or switch off the step that cuts it away.',
      });
    }
    return through;
  };
  const keep = ({ start, end }: Span) => {
    if (!isShaped) save(withKept(recipe, start, end, source.frames));
    else if (add({ kind: 'keep', on: true, params: { startFrame: start, endFrame: end } })) {
      useDesk.setState({ mark: null });
    }
  };
  const bench = { sound, source, recipe, ...read, shown, save, add, markInResult, keep };
  return <Context value={bench}>{children}</Context>;
}

export function shapeOf({ facts }: Sound): Shape {
  return facts ? statedShape(facts) : { rateHz: 1, channelCount: 1, frames: 1 };
}

function readRecipe(recipe: Recipe, source: Shape) {
  const walked = walkRecipe(recipe, source);
  return {
    walked,
    result: walked.at(-1)?.after ?? source,
    problem: walked.find(({ problem }) => problem)?.problem ?? null,
    trace: traceRecipe(recipe, source),
    loopAt: loopAtOf(recipe, walked),
  };
}

/** The last step that sets a loop and is on, as far as those in front of it can be done. */
function loopAtOf({ steps }: Recipe, walked: readonly WalkedStep[]): number | null {
  const at = steps.findLastIndex(({ on, kind }) => on && kind === 'loop');
  return at < 0 || walked.slice(0, at).some(({ problem }) => problem) ? null : at;
}

function sourceShown(sound: Sound): Workbench['shown'] {
  const shape = shapeOf(sound);
  return {
    shape,
    asked: sourceOf(sound),
    pictured: {
      key: sound.sourceSha256,
      soundId: sound.id,
      sourceSha256: sound.sourceSha256,
      recipe: null,
      frames: shape.frames,
      channels: shape.channelCount,
    },
  };
}

function shapedShown(sound: Sound, recipe: Recipe, shape: Shape): Workbench['shown'] {
  const { pictured } = sourceShown(sound);
  const isSame = recipeKey(recipe) === recipeKey(emptyRecipe);
  return {
    shape,
    asked: { sound, recipe },
    pictured: {
      ...pictured,
      key: isSame ? pictured.key : `${sound.sourceSha256} ${recipeKey(recipe)}`,
      recipe: isSame ? null : recipe,
      frames: shape.frames,
      channels: shape.channelCount,
    },
  };
}

/** The recipe as it is stored, or as it is on its way there. */
function useRecipe(sound: Sound) {
  const { change } = useChange();
  const [draft, setDraft] = useState<Recipe | null>(null);
  const save = (recipe: Recipe) => {
    // What was done last is stored last, and shown until it is.
    setDraft(recipe);
    void change<Sound>(`sounds/${sound.id}`, 'PATCH', { recipe }).then(() =>
      setDraft((current) => (current === recipe ? null : current)),
    );
  };
  return { recipe: draft ?? sound.recipe, save };
}

/** A shorter result leaves no view or mark behind its end. */
function keepInside(frames: number): void {
  const { view, mark } = useDesk.getState();
  if (view.end > frames) {
    const length = Math.min(frames, view.end - view.start);
    useDesk.setState({ view: { start: frames - length, end: frames } });
  }
  if (mark && mark.end > frames) {
    useDesk.setState({ mark: mark.start < frames ? { ...mark, end: frames } : null });
  }
}

/** A new step of a kind with what it begins with. */
export function newStep(kind: string, before: Shape, params: Step['params'] = {}): Step {
  const found = kindOf({ kind, on: true, params: {} });
  return { kind, on: !found?.beginsOff, params: { ...found?.defaults(before), ...params } };
}
