'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import type { Comparison } from '@/wire';
import { call } from '../../shared/api';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { themeColour } from '../codecs';

/** The run as files, on paper, or not any more. */
export function Exports({ run }: { run: Comparison }) {
  const { project } = useProject();
  const router = useRouter();
  const { run: act, busy } = useAction();
  const address = `/api/comparisons/${run.id}/export`;
  return (
    <span className="flex flex-wrap gap-3 print:hidden">
      <a className="link link-primary" href={`${address}?as=csv`} download>
        CSV
      </a>
      <a className="link link-primary" href={`${address}?as=json`} download>
        JSON
      </a>
      <button className="link link-primary" onClick={() => void savePicture(run.id)}>
        Picture
      </button>
      <Link
        className="link link-primary"
        href={`/p/${project.id}/compare/${run.id}/report`}
        prefetch={false}
        title="Everything on a page made for paper"
      >
        Report
      </Link>
      <button
        className="link"
        disabled={busy}
        title="The files that only it needs go with it"
        onClick={() =>
          void act(async () => {
            await call(`comparisons/${run.id}`, 'DELETE');
            router.push(`/p/${project.id}/compare`);
          })
        }
      >
        Forget this run
      </button>
    </span>
  );
}

/** The chart on paper, as a file. */
async function savePicture(runId: number): Promise<void> {
  const chart = document.querySelector<HTMLCanvasElement>('main figure canvas[data-points]');
  if (!chart) return;
  const picture = new OffscreenCanvas(chart.width, chart.height);
  const context = picture.getContext('2d')!;
  context.fillStyle = themeColour('--color-base-100', chart);
  context.fillRect(0, 0, picture.width, picture.height);
  context.drawImage(chart, 0, 0);
  const url = URL.createObjectURL(await picture.convertToBlob({ type: 'image/png' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = `comparison ${runId}.png`;
  link.click();
  URL.revokeObjectURL(url);
}
