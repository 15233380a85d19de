import { toast } from 'sonner';
import { crossfadeAt } from '@/core/recipe/steps/cut';
import { useDesk } from './desk';
import { newStep, useWorkbench } from './workbench';

/** The verbs of the marked part, each with its key. They add steps; only keeping changes one that is there. */
export function useVerbs() {
  const { result, add, markInResult, keep } = useWorkbench();
  const withSpan = (use: (span: { startFrame: number; endFrame: number }) => void) => () => {
    const span = markInResult();
    if (span) use(span);
  };
  return [
    {
      name: 'Keep',
      key: 'Enter',
      tip: 'Leave only the marked part',
      run() {
        const { mark } = useDesk.getState();
        if (mark) keep(mark);
        else
          toast('Nothing is marked.', { description: 'Drag over the waveform, or type a span.' });
      },
    },
    {
      name: 'Cut out',
      key: 'X',
      tip: 'Take the marked part out and close the gap with a short crossfade',
      run: withSpan((span) => {
        if (add(newStep('cut', result, { ...span, crossfadeFrames: crossfadeAt(result.rateHz) }))) {
          useDesk.setState({ mark: null });
        }
      }),
    },
    {
      name: 'Blank',
      key: 'B',
      tip: 'Make the marked part silent; the timing stays',
      run: withSpan((span) => void add(newStep('blank', result, span))),
    },
    {
      name: 'Insert silence',
      key: 'I',
      tip: 'Put silence as long as the marked part in front of it',
      run: withSpan(({ startFrame, endFrame }) => {
        add(newStep('silence', result, { atFrame: startFrame, frames: endFrame - startFrame }));
      }),
    },
    {
      name: 'Fade in to its end',
      key: 'F',
      tip: 'Let the sound rise from its beginning to the end of the marked part',
      run: withSpan(
        ({ endFrame }) => void add(newStep('fade-in', result, { frames: endFrame, shape: 's' })),
      ),
    },
    {
      name: 'Fade out from its start',
      key: 'Shift+F',
      tip: 'Let the sound fall from the start of the marked part to its own end',
      run: withSpan(({ startFrame }) => {
        add(newStep('fade-out', result, { frames: result.frames - startFrame, shape: 's' }));
      }),
    },
  ];
}
