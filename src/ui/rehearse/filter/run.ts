import { createStore } from 'zustand/vanilla';
import {
  triggers,
  untouched,
  type Hint,
  type SoundChoice,
  type StageChoices,
  type Trigger,
} from '@/core/host/filter/choices';
import {
  silentStage,
  triggered,
  type StagedSound,
  type StageEvent,
  type StageState,
} from '@/core/host/filter/stage';
import type { FilterScene } from '@/core/host/filter/scene';
import { formatTime } from '@/core/time';
import type { LoadedPack } from '@/player/host/messages';
import type { Rehearsal } from '../rehearsing';

/** A filter while it is open: what is set, what has happened, what is planned. */
interface FilterRunState {
  choices: StageChoices;
  /** Whether something is set otherwise than the pack says. */
  isChanged: boolean;
  stage: StageState;
  taps: number;
  /** When it was opened, in ms of the page’s clock. */
  openedAt: number;
  /** What happened last, for the picture. */
  last: { trigger: Trigger; at: number } | null;
  plan: readonly StageEvent[];
  /** When the plan was begun, in ms; null while it is not played. */
  playedFrom: number | null;
}

/** So long a plan is, in seconds. */
export const PLAN_SECONDS = 15;

/** What the second tap does shows at once. */
const usualPlan: readonly StageEvent[] = [
  { trigger: 'opened', at: 0 },
  { trigger: 'tap', at: 2 },
  { trigger: 'tap', at: 5 },
  { trigger: 'mouth', at: 8 },
];

/** Opens a filter, has things happen to it, and has its sounds do what was chosen. */
export class FilterRun {
  readonly store;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private readonly leave: () => void;
  private sounds: readonly StagedSound[];

  constructor(
    private readonly rehearsal: Rehearsal,
    { sounds, scene }: LoadedPack,
  ) {
    this.sounds = sounds;
    const { choices } = scene as FilterScene;
    this.store = createStore<FilterRunState>(() => ({
      choices,
      isChanged: false,
      stage: silentStage,
      taps: 0,
      openedAt: performance.now(),
      last: null,
      plan: usualPlan,
      playedFrom: null,
    }));
    this.leave = rehearsal.whenSilenced(() => {
      this.halt();
      this.forget();
    });
    this.happen('opened');
  }

  /** Takes a pack that was loaded again: what plays goes on, and what nobody has changed is as the pack says. */
  reload({ sounds, scene }: LoadedPack): void {
    this.sounds = sounds;
    const { choices } = scene as FilterScene;
    this.store.setState(({ isChanged, choices: own }) =>
      isChanged
        ? { choices: { ...own, sounds: { ...choices.sounds, ...own.sounds } } }
        : { choices },
    );
  }

  /** Seconds since the filter was opened. */
  now(): number {
    return (performance.now() - this.store.getState().openedAt) / 1_000;
  }

  /** Something happens. Opening begins everything anew. */
  happen(trigger: Trigger): void {
    const before = this.store.getState();
    const isOpening = trigger === 'opened';
    const openedAt = isOpening ? performance.now() : before.openedAt;
    const at = isOpening ? 0 : this.now();
    const event = { trigger, at };
    const { state, orders } = triggered(before.stage, this.sounds, before.choices, event);
    const taps = isOpening ? 0 : before.taps + (trigger === 'tap' ? 1 : 0);
    if (isOpening) this.rehearsal.stopAll();
    this.store.setState({ stage: state, openedAt, taps, last: { trigger, at: performance.now() } });
    this.mute();
    for (const { file, does } of orders) {
      const choice = before.choices.sounds[file]!;
      if (does !== 'start') this.rehearsal.stopFile(file, does === 'stop' ? choice.fade : 0);
      if (does !== 'stop') void this.begin(file, choice);
    }
    const what = orders.map(({ file, does }) => `${file} ${said[does]}`).join(', ');
    const when = isOpening ? '' : ` at ${formatTime(at, 1)}`;
    this.rehearsal.note(`${capital(nameOf(trigger, taps))}${when}: ${what || 'nothing happens'}.`);
  }

  /** Nothing is heard before the first tap. */
  mute(): void {
    this.rehearsal.setMuted(this.store.getState().stage.heardFrom === null);
  }

  private begin(file: string, { level, fade, isLoop }: SoundChoice): Promise<number | null> {
    const loop = isLoop ? ('all' as const) : null;
    return this.rehearsal.start(file, { gain: level / 100, fadeSeconds: fade, loop });
  }

  choose(file: string, change: Partial<SoundChoice>): void {
    this.store.setState(({ choices }) => {
      const choice = { ...(choices.sounds[file] ?? untouched), ...change };
      return {
        isChanged: true,
        choices: { ...choices, sounds: { ...choices.sounds, [file]: choice } },
      };
    });
    if (change.level !== undefined) this.rehearsal.player?.setGain(file, change.level / 100);
  }

  chooseHint(change: Partial<Hint>): void {
    this.store.setState(({ choices }) => ({
      isChanged: true,
      choices: { ...choices, hint: { ...choices.hint, ...change } },
    }));
  }

  /** What is set has gone into the pack’s settings: nothing is other any more. */
  kept(): void {
    this.store.setState({ isChanged: false });
  }

  setPlan(plan: readonly StageEvent[]): void {
    this.store.setState({ plan });
  }

  /** Has everything that is planned happen in its time. */
  play(): void {
    this.halt();
    const { plan } = this.store.getState();
    const begun = performance.now();
    this.store.setState({ playedFrom: begun });
    const open = [...plan].sort((a, b) => a.at - b.at);
    const step = () => {
      const now = (performance.now() - begun) / 1_000;
      while (open[0] && open[0].at <= now) this.happen(open.shift()!.trigger);
      if (now >= PLAN_SECONDS) return this.halt();
      const next = (open[0]?.at ?? PLAN_SECONDS) - now;
      this.timer = setTimeout(step, next * 1_000);
    };
    step();
  }

  /** Ends the playing of the plan; what sounds is stopped. */
  halt(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    if (this.store.getState().playedFrom === null) return;
    this.store.setState({ playedFrom: null });
    this.rehearsal.stopAll(0.1);
    this.forget();
  }

  /** Nothing runs any more. */
  private forget(): void {
    this.store.setState(({ stage }) => ({ stage: { ...stage, running: {} } }));
  }

  close(): void {
    this.leave();
    if (this.timer !== null) clearTimeout(this.timer);
  }
}

const said = { start: 'begins', startOver: 'begins again', stop: 'stops' } as const;

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** A trigger in words; a tap that is not the first one is called so. */
export function nameOf(trigger: Trigger, taps: number): string {
  return trigger === 'tap' && taps > 1 ? 'a tap again' : triggers[trigger];
}
