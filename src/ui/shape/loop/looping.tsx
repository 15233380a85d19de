'use client';

import {
  createContext,
  useContext,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { errorFacts, type ErrorFacts } from '@/core/errors';
import { partsOf, type LoopParts } from '@/core/loop/parts';
import { noMarks, noParts } from '@/core/marks';
import { wholeRange, type PcmSource } from '@/core/pcm/source';
import { traceRecipe } from '@/core/recipe/trace';
import { loop as loopKind, type LoopParams } from '@/core/recipe/steps/loop';
import { plainTools, type Recipe, type Shape } from '@/core/recipe/types';
import type { Version } from '../../strip/listening';
import { layOut, useDesk } from '../desk';
import { newStep, useWorkbench } from '../workbench';
import { nearSound, type NearSound } from './samples';

/** The loop of a sound while one works on it: as its step has it, or as it is being moved. */
export interface Looping {
  params: LoopParams;
  /** The sound in front of the loop step, in whose frames the loop is. */
  before: { shape: Shape; recipe: Recipe; sound: NearSound };
  /** The loop made, and where its pieces lie in it; null while it cannot be. */
  made: { sound: PcmSource; parts: LoopParts; version: Version } | null;
  problem: ErrorFacts | null;
  /** Changes it: at once on the screen, and on the server; `soon` while it is still being moved. */
  change(params: Partial<LoopParams>, name: keyof LoopParams, when?: 'now' | 'soon'): void;
}

interface Bench {
  /** null while the sound has no loop step. */
  looping: Looping | null;
  /** Puts a loop step behind all others. */
  begin(params: Partial<LoopParams>): void;
}

const Context = createContext<Bench>({ looping: null, begin: () => undefined });

export function useLooping(): Bench {
  return useContext(Context);
}

/** So long one may pause in moving an edge before it counts as moved. */
const SETTLED_MS = 300;

/** Holds the loop that the recipe sets, for whatever shows it, plays it and changes it. */
export function LoopingProvider({ isOn, children }: { isOn: boolean; children: ReactNode }) {
  const bench = useWorkbench();
  const { sound, result, add, loopAt } = bench;
  const value = useStep(isOn);
  const begin = (params: Partial<LoopParams>) => {
    add(newStep('loop', result, { ...params }));
  };
  const shown = useDesk((desk) => desk.shown);
  const hasLoop = loopAt !== null;
  // Behind the drawing: the workbench lays a sound out first.
  useEffect(() => {
    if (isOn && hasLoop && shown !== 'loop') useDesk.setState({ shown: 'loop' });
  }, [isOn, hasLoop, shown]);
  const { id, facts } = sound;
  const frames = facts?.frames ?? 1;
  useLayoutEffect(() => {
    if (isOn) return () => layOut(id, frames);
  }, [isOn, id, frames]);
  return <Context value={{ looping: value, begin }}>{children}</Context>;
}

function useStep(isOn: boolean): Looping | null {
  const { sound, recipe, walked, loopAt, save } = useWorkbench();
  const step = loopAt === null ? null : recipe.steps[loopAt]!;
  const stored = step?.params as unknown as LoopParams | undefined;
  const storedKey = JSON.stringify(stored);
  const [draft, setDraft] = useState<{ of: string; params: LoopParams } | null>(null);
  // What was moved on from what is stored now; anything else is out of date.
  const params = useSame(draft && draft.of === storedKey ? draft.params : stored);
  const before = useMemo(() => {
    if (loopAt === null) return null;
    const { shape, recipe: first } = inFront(recipe, walked, loopAt);
    return { shape, recipe: first, sound: nearSound({ sound, recipe: first }, shape) };
    // The steps in front of it decide, not the loop itself.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [sound.sourceSha256, loopAt, JSON.stringify(recipe.steps.slice(0, loopAt ?? 0))]);
  const made = useMemo(
    () => (before && params ? makeLoop(sound.id, sound.sourceSha256, before, params) : null),
    [sound.id, sound.sourceSha256, before, params],
  );
  const settle = useRef<{ timer: ReturnType<typeof setTimeout>; save: () => void } | null>(null);
  useLayoutEffect(() => {
    // What is still being moved is moved on from what is stored now.
    setDraft((old) => (old && settle.current !== null ? { ...old, of: storedKey } : null));
  }, [storedKey]);
  const latest = useRef({ recipe, save, loopAt });
  useEffect(() => {
    latest.current = { recipe, save, loopAt };
  });
  const flush = () => {
    const waiting = settle.current;
    if (!waiting) return;
    settle.current = null;
    clearTimeout(waiting.timer);
    waiting.save();
  };
  useEffect(() => {
    // What was moved is stored before it is undone, and before the page is left.
    const listen = (event: KeyboardEvent) => void ((event.ctrlKey || event.metaKey) && flush());
    window.addEventListener('keydown', listen, { capture: true });
    return () => {
      window.removeEventListener('keydown', listen, { capture: true });
      flush();
    };
  }, []);
  const looping = useMemo((): Looping | null => {
    if (!before || !params || !made) return null;
    return {
      params,
      before,
      ...made,
      change(some, name, when = 'now') {
        const next = withParts(loopKind.along!({ ...params, ...some }, name), params, before.shape);
        setDraft({ of: storedKey, params: next });
        if (settle.current) clearTimeout(settle.current.timer);
        const store = () => {
          const { recipe: now, save: put, loopAt: at } = latest.current;
          if (at === null) return;
          const own = { ...now.steps[at]!, params: { ...next } };
          put({ ...now, steps: now.steps.map((old, i) => (i === at ? own : old)) });
        };
        settle.current = { timer: setTimeout(flush, SETTLED_MS), save: store };
        if (when === 'now') flush();
      },
    };
  }, [before, params, made, storedKey]);
  useMark(isOn ? looping : null);
  return looping;
}

/** The same object as long as nothing of it is other: what was worked out from it stays. */
function useSame<Value>(value: Value): Value {
  const key = JSON.stringify(value);
  // eslint-disable-next-line react-hooks/exhaustive-deps
  return useMemo(() => value, [key]);
}

/** The steps in front of the loop and what they make. */
function inFront(
  recipe: Recipe,
  walked: readonly { before: Shape }[],
  at: number,
): { shape: Shape; recipe: Recipe } {
  return { shape: walked[at]!.before, recipe: { ...recipe, steps: recipe.steps.slice(0, at) } };
}

/** Intro and tail keep their far ends while the loop is moved between them. */
function withParts(next: LoopParams, old: LoopParams, { frames }: Shape): LoopParams {
  const isIntroSet = next.introFrames !== old.introFrames;
  const isTailSet = next.tailFrames !== old.tailFrames;
  const introStart = old.startFrame - old.introFrames;
  const tailEnd = old.endFrame + old.tailFrames;
  const intro =
    isIntroSet || old.introFrames === 0 ? next.introFrames : next.startFrame - introStart;
  const tail = isTailSet || old.tailFrames === 0 ? next.tailFrames : tailEnd - next.endFrame;
  const room = frames - next.endFrame;
  const most = next.seam === 'tail' ? Math.min(room, next.endFrame - next.startFrame) : room;
  return {
    ...next,
    introFrames: Math.max(0, Math.min(next.startFrame, intro)),
    tailFrames: Math.max(0, isTailSet ? tail : Math.min(most, tail)),
  };
}

function makeLoop(
  soundId: number,
  sha256: string,
  before: Looping['before'],
  params: LoopParams,
): Pick<Looping, 'made' | 'problem'> {
  try {
    const { frames } = loopKind.shape(before.shape, params);
    const sound = loopKind.apply(before.sound, params, { figure: undefined, tools: plainTools });
    const parts = partsOf(loopKind.marks!({ ...noMarks, ...noParts }, params));
    const place = loopKind.place!(before.shape, params);
    const origin = loopKind.origin!(before.shape, params);
    const trace = traceRecipe(before.recipe, before.shape);
    const version: Version = {
      key: `loop-${soundId}`,
      content: `${sha256} ${JSON.stringify([before.recipe.steps, params])}`,
      label: 'Loop',
      rateHz: sound.rateHz,
      channels: sound.channelCount,
      frames,
      loudness: null,
      url: '',
      samples: (start, count) => wholeRange(sound, start, start + count),
      toSource: (frame) => trace.back(origin(frame)),
      fromSource: (frame) => place(trace.forward(frame) ?? 0) ?? 0,
      toPicture: origin,
      fromPicture: (frame) => place(frame) ?? frame,
    };
    return { made: { sound, parts, version }, problem: null };
  } catch (error) {
    return { made: null, problem: errorFacts(error) };
  }
}

/** The mark of the picture is the loop: moving its ends moves the loop, and the other way round. */
function useMark(looping: Looping | null): void {
  const current = useRef(looping);
  useLayoutEffect(() => {
    current.current = looping;
  });
  const { startFrame: start, endFrame: end } = looping?.params ?? { startFrame: 0, endFrame: 0 };
  // A loop that lies outside of its sound is kept as it is until somebody moves it.
  const isInside = looping !== null && start < end && end <= looping.before.shape.frames;
  const isOn = looping !== null;
  useLayoutEffect(() => {
    if (!isOn) return;
    const { mark } = useDesk.getState();
    const wanted = isInside ? { start, end } : null;
    if (mark?.start !== wanted?.start || mark?.end !== wanted?.end) {
      useDesk.setState({ mark: wanted });
    }
  }, [isOn, isInside, start, end]);
  useEffect(() => {
    if (!isOn) return;
    return useDesk.subscribe(({ mark, shown }) => {
      const loop = current.current;
      if (!loop || shown !== 'loop') return;
      const { startFrame, endFrame } = loop.params;
      if (!mark) {
        const isThere = startFrame < endFrame && endFrame <= loop.before.shape.frames;
        if (isThere) useDesk.setState({ mark: { start: startFrame, end: endFrame } });
      } else if (mark.start !== startFrame || mark.end !== endFrame) {
        loop.change(
          { startFrame: mark.start, endFrame: mark.end },
          mark.start === startFrame ? 'endFrame' : 'startFrame',
          'soon',
        );
      }
    });
  }, [isOn]);
}
