'use client';

import { useEffect, useState } from 'react';
import { call } from '../shared/api';
import { formatTime, plural } from '../shared/format';
import { useProgress, useProject } from '../shared/project';
import { useAction } from '../shared/useAction';
import { ProgressLine } from './ProgressLine';

/** What is being worked on right now, wherever one is: how much is left, how fast it goes, and Cancel. */
export function Work() {
  const { project, work, running } = useProject();
  const byJob = useProgress((state) => state.byJob);
  const { run, busy } = useAction();
  const [began, setBegan] = useState<{ at: number; most: number } | null>(null);
  const [now, setNow] = useState(0);
  const open = work.reduce((sum, one) => sum + one.open, 0);
  useEffect(() => {
    if (open === 0) {
      setBegan(null);
      return;
    }
    setBegan((old) =>
      old ? { ...old, most: Math.max(old.most, open) } : { at: Date.now(), most: open },
    );
    const clock = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(clock);
  }, [open]);
  if (open === 0 || !began) return null;
  const begun = running.reduce((sum, job) => sum + (byJob[job.id] ?? job.progress), 0);
  const left = open - begun;
  const done = Math.max(0, began.most - left);
  const seconds = Math.max(0, now - began.at) / 1000;
  const remaining = done > 0.2 && seconds > 1 ? (left * seconds) / done : null;
  const parts = work.map((one) => `${one.verb} ${plural(one.open, one.noun)}`);
  return (
    <ProgressLine label="Work done" value={done} max={began.most}>
      <span>{parts.join(', ')}</span>
      <span className="text-soft">
        {Math.floor(done)} of {began.most} done
        {seconds > 1 && done > 0 && `, ${(done / seconds).toFixed(1)} a second`}
        {remaining !== null && `, about ${formatTime(Math.ceil(remaining), 0)} left`}
      </span>
      <button
        className="btn btn-ghost btn-xs ml-auto"
        disabled={busy}
        onClick={() => run(() => call(`projects/${project.id}/jobs/cancel`, 'POST'))}
      >
        Cancel
      </button>
    </ProgressLine>
  );
}
