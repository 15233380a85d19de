import { answerOf, soundingQuestion, type Asked, type Sounding } from './ask';
import { useDesk, useHabits, type Span } from './desk';
import { zoom } from './view';

/** Moving what is marked, and finding places for its ends. */

/** Marks a span at once; with snapping on, its ends go to the zero crossings next to them. */
export async function setMark(asked: Asked, frames: number, mark: Span): Promise<void> {
  useDesk.setState({ mark });
  if (!useHabits.getState().isSnapping) return;
  const near = async (frame: number) =>
    frame === 0 || frame === frames ? frame : ((await crossing(asked, frame, 0)) ?? frame);
  const [start, end] = [await near(mark.start), await near(mark.end)];
  // What was moved on meanwhile stays as it is.
  if (useDesk.getState().mark === mark && end > start) useDesk.setState({ mark: { start, end } });
}

async function crossing(asked: Asked, frame: number, direction: -1 | 0 | 1) {
  return (await answerOf<{ frame: number | null }>(asked, 'crossing', { frame, direction })).frame;
}

/** Moves one end of the mark a little, as far as was chosen. */
export async function nudgeEdge(
  asked: Asked,
  { frames, rateHz }: { frames: number; rateHz: number },
  edge: keyof Span,
  direction: -1 | 1,
): Promise<void> {
  const mark = useDesk.getState().mark ?? { start: 0, end: frames };
  const from = mark[edge];
  const { nudge } = useHabits.getState();
  const to =
    nudge === 'crossing'
      ? ((await crossing(asked, from, direction)) ?? from)
      : from + direction * (nudge === 'frame' ? 1 : Math.max(1, Math.round(rateHz / 1_000)));
  const next = withEdge(mark, edge, to, frames);
  useDesk.setState({ mark: next });
  intoView(next[edge], frames);
}

/** The mark with an end moved, never empty, never outside. */
export function withEdge(mark: Span, edge: keyof Span, frame: number, frames: number): Span {
  return edge === 'start'
    ? { ...mark, start: Math.max(0, Math.min(frame, mark.end - 1)) }
    : { ...mark, end: Math.min(frames, Math.max(frame, mark.start + 1)) };
}

/** Brings a frame into view without going closer or farther. */
export function intoView(frame: number, frames: number): void {
  const { view } = useDesk.getState();
  if (frame >= view.start && frame <= view.end) return;
  const length = view.end - view.start;
  const start = Math.max(0, Math.min(frames - length, Math.round(frame - length / 2)));
  useDesk.setState({ view: { start, end: start + length } });
}

/** Shows the mark with a little on both sides. */
export function zoomToMark(frames: number): void {
  const { mark } = useDesk.getState();
  if (!mark) return;
  const length = (mark.end - mark.start) * 1.1;
  const middle = (mark.start + mark.end) / 2;
  useDesk.setState({
    view: zoom({ start: middle - length / 2, end: middle + length / 2 }, frames, 1, middle),
  });
}

/** The nearest place before or behind a frame where silence ends or begins; null where there is none. */
export async function silenceEdge(
  asked: Asked,
  frame: number,
  direction: -1 | 1,
): Promise<number | null> {
  const stretches = await answerOf<Sounding>(asked, 'sounding', soundingQuestion());
  const edges = stretches.flatMap(({ startFrame, endFrame }) => [startFrame, endFrame]);
  return (
    (direction > 0 ? edges.find((edge) => edge > frame) : edges.findLast((edge) => edge < frame)) ??
    null
  );
}
