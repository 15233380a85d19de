import { toast } from 'sonner';
import { ApiError } from '../shared/api';
import { useDesk, type Span } from './desk';
import { intoView, nudgeEdge, setMark, silenceEdge, withEdge } from './marking';
import { playAround, playSpan, seek, shownFrame } from './playing';
import { useWorkbench } from './workbench';

/** What can be done with the mark, by mouse and by keys. */
export function useMark() {
  const { sound, shown } = useWorkbench();
  const { asked, shape } = shown;
  const { frames, rateHz } = shape;
  const whole = () => ({ start: 0, end: frames });
  const marked = () => useDesk.getState().mark ?? whole();
  const here = () => {
    const { view } = useDesk.getState();
    return shownFrame(sound) ?? Math.round((view.start + view.end) / 2);
  };
  const set = (mark: Span) => void setMark(asked, frames, mark).catch(explain);
  return {
    set,
    here,
    clear: () => useDesk.setState({ mark: null }),
    all: () => useDesk.setState({ mark: whole() }),
    edgeHere: (edge: keyof Span) => set(withEdge(marked(), edge, here(), frames)),
    nudge: (edge: keyof Span, direction: -1 | 1) =>
      void nudgeEdge(asked, { frames, rateHz }, edge, direction).catch(explain),
    play: () => playSpan(sound, marked()),
    hearEdge: (edge: keyof Span) => playAround(sound, marked()[edge], frames, rateHz),
    toSilence(direction: -1 | 1) {
      silenceEdge(asked, here(), direction)
        .then((edge) => {
          if (edge === null) toast('There is no silence edge on that side.');
          else {
            seek(sound, Math.min(frames - 1, edge));
            intoView(edge, frames);
          }
        })
        .catch(explain);
    },
  };
}

/** Says what the server said. */
export function explain(error: unknown): void {
  const facts = error instanceof ApiError ? error.facts : null;
  toast.error(facts?.message ?? 'That did not work.', { description: facts?.hint });
}
