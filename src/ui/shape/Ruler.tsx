import { useDesk, useHabits } from './desk';
import { rulerMarks } from './view';
import { useWorkbench } from './workbench';

/** Times, frames, or bars and beats above the picture. */
export function Ruler({ width }: { width: number }) {
  const { sound, shown } = useWorkbench();
  const view = useDesk((desk) => desk.view);
  const unit = useHabits((habits) => habits.ruler);
  const marks = width > 0 ? rulerMarks(view, shown.shape.rateHz, width, unit, sound.tempo) : [];
  return (
    <div className="relative h-5 overflow-hidden" aria-hidden>
      {marks.map(({ frame, label }) => (
        <span
          key={frame}
          className="border-base-300 text-soft absolute bottom-0 h-full border-l pl-1 text-xs"
          style={{ left: `${((frame - view.start) / (view.end - view.start)) * 100}%` }}
        >
          {label}
        </span>
      ))}
    </div>
  );
}
