'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { textNames, type TextId } from '@/core/brief/layout';
import type { Brief } from '@/core/brief/schema';
import { manifestKind } from '@/core/pack/manifests';
import type { OutlinedText } from '@/wire';
import { call } from '../../shared/api';
import { useProject } from '../../shared/project';
import { usePackVersion } from './asking';

/** Longer texts are shown as far as that. */
const MOST_SHOWN = 20_000;

/** The texts that lie beside the sounds, as they would be written now. */
export function Texts({ brief }: { brief: Brief }) {
  const { project } = useProject();
  const version = usePackVersion();
  const [shown, setShown] = useState<string | null>(null);
  const { data: texts } = useQuery({
    queryKey: ['texts', project.id, brief.id, version],
    queryFn: () => call<OutlinedText[]>(`projects/${project.id}/layouts/${brief.id}/texts`),
    placeholderData: keepPreviousData,
  });
  if (!texts) return null;
  const text = texts.find(({ path }) => path === shown) ?? texts[0];
  return (
    <section aria-label="Texts" className="border-base-300 bg-base-100 border">
      <div className="border-base-300 flex flex-wrap items-baseline gap-1.5 border-b px-4 py-2">
        <h3 className="mr-2 font-serif text-lg">Texts</h3>
        {texts.map(({ path }) => (
          <button
            key={path}
            className="btn btn-paper btn-xs aria-pressed:border-primary aria-pressed:text-primary"
            aria-pressed={path === text?.path}
            onClick={() => setShown(path)}
          >
            {path}
          </button>
        ))}
      </div>
      {text && (
        <div className="px-4 py-2">
          <About text={text} />
          <pre
            className="bg-base-200 mt-2 max-h-72 overflow-auto p-3 text-xs leading-snug"
            tabIndex={0}
            aria-label={`Text of ${text.path}`}
          >
            {text.text.slice(0, MOST_SHOWN)}
            {text.text.length > MOST_SHOWN && '\n…'}
          </pre>
        </div>
      )}
    </section>
  );
}

function About({ text: { is, manifest } }: { text: OutlinedText }) {
  const name = textNames[is as TextId];
  if (manifest === null) return <p className="text-soft">{name}, from a template of the brief.</p>;
  const { about, fields } = manifestKind(manifest);
  return (
    <details>
      <summary className="text-soft cursor-pointer">
        {name}. {about} What its fields mean
      </summary>
      <dl className="mt-1 grid grid-cols-[auto_minmax(0,1fr)] gap-x-4 text-xs">
        {Object.entries(fields).map(([field, means]) => (
          <div key={field} className="contents">
            <dt className="font-semibold">{field}</dt>
            <dd>{means}</dd>
          </div>
        ))}
      </dl>
    </details>
  );
}
