import { useDesk, type Shown } from './desk';
import { zoomToMark } from './marking';
import { shownFrame } from './playing';
import { zoom } from './view';
import { useWorkbench } from './workbench';

/** Moving what the picture shows. */
export function useView() {
  const { sound, shown, trace, result, source, problem } = useWorkbench();
  const { frames } = shown.shape;
  return {
    /** Around the place that is heard where it is in view, else around the middle. */
    closer(factor: number) {
      const { view } = useDesk.getState();
      const at = shownFrame(sound);
      const isInView = at !== null && at >= view.start && at < view.end;
      const around = isInView ? at : (view.start + view.end) / 2;
      useDesk.setState({ view: zoom(view, frames, factor, around) });
    },
    whole: () => useDesk.setState({ view: { start: 0, end: frames } }),
    toMark: () => zoomToMark(frames),
    /** Shows the source or the result, the same part of it, with the same part marked. */
    show(next: Shown) {
      const { shown: before, view, mark } = useDesk.getState();
      if (next === before || (next === 'shaped' && problem)) return;
      const most = next === 'shaped' ? result.frames : source.frames;
      const through = (frame: number) =>
        next === 'source' ? trace.back(frame) : (trace.forward(frame) ?? null);
      const span = (from: { start: number; end: number } | null) => {
        const ends = from && [through(from.start), through(from.end)];
        if (!ends || ends[0] == null || ends[1] == null) return null;
        const [start, end] = ends
          .map((frame) => Math.max(0, Math.min(most, Math.round(frame!))))
          .sort((a, b) => a - b) as [number, number];
        return end > start ? { start, end } : null;
      };
      const isWhole = view.start === 0 && view.end === frames;
      useDesk.setState({
        shown: next,
        view: (!isWhole && span(view)) || { start: 0, end: most },
        mark: span(mark),
      });
    },
  };
}
