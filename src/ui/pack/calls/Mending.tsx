'use client';

import { Check, FileJson, Wrench } from 'lucide-react';
import { useRef, useState } from 'react';
import type { Brief } from '@/core/brief/schema';
import type { IndexReport } from '@/core/pack/calls/readIndex';
import { call } from '../../shared/api';
import { plural } from '../../shared/format';
import { useSettling } from '../layout/asking';
import { Lines } from './Lines';
import { Report } from './Report';

/** A larger text is no index that somebody mends here. */
const MOST_CHARACTERS = 4_000_000;

/** An index from elsewhere: what is wrong in it is found, mended in view, and held against the files that are here. */
export function Mending({ brief }: { brief: Brief }) {
  const { path, run, busy, change } = useSettling(brief.id);
  const [name, setName] = useState('calls.json');
  const [text, setText] = useState('');
  const [looked, setLooked] = useState<{ text: string; report: IndexReport } | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const look = (shown: string) =>
    run(async () => {
      const report = await call<IndexReport>(`${path}/index`, 'POST', { text: shown });
      setLooked({ text: shown, report });
    });
  const open = async (file: File | undefined) => {
    if (!file) return;
    const shown = (await file.text()).slice(0, MOST_CHARACTERS);
    setName(file.name);
    setText(shown);
    await look(shown);
  };
  const report = looked?.text === text ? looked.report : null;
  const mended = report?.mended ?? null;
  const isOther = mended !== null && mended !== text;
  return (
    <section
      aria-label="Mend an index"
      onDragOver={(event) => {
        event.preventDefault();
        event.stopPropagation();
      }}
      onDrop={(event) => {
        event.preventDefault();
        event.stopPropagation();
        void open(event.dataTransfer.files[0]);
      }}
    >
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <h2 className="mr-2 font-serif text-2xl">Mend an index</h2>
        <span className="text-soft">
          Drop one here, or paste it: ours, or any JSON that names files.
        </span>
        <button className="btn btn-paper btn-sm ml-auto" onClick={() => field.current?.click()}>
          <FileJson size={14} /> Open a file
        </button>
        <input
          ref={field}
          type="file"
          className="hidden"
          aria-label="Index file"
          onChange={(event) => {
            void open(event.target.files?.[0]);
            event.target.value = '';
          }}
        />
      </div>
      <div className="grid items-start gap-5 xl:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
        <div className="min-w-0">
          <textarea
            className="textarea h-64 w-full font-mono text-xs leading-snug"
            aria-label="Text of the index"
            placeholder='{ "calls": [{ "id": "gull/near", "variants": [{ "path": "gull.ogg", "odds": 1 }] }] }'
            spellCheck={false}
            value={text}
            onChange={(event) => setText(event.target.value.slice(0, MOST_CHARACTERS))}
          />
          <div className="mt-2 flex flex-wrap gap-2">
            <button
              className="btn btn-primary btn-sm"
              disabled={busy || text.trim() === '' || report !== null}
              onClick={() => void look(text)}
            >
              Look at it
            </button>
            <button
              className="btn btn-paper btn-sm"
              disabled={busy || !isOther}
              onClick={() => {
                setText(mended!);
                void look(mended!);
              }}
            >
              <Wrench size={14} /> Mend it
            </button>
            {report && report.problems.length === 0 && (
              <>
                <a
                  className="btn btn-paper btn-sm"
                  href={`data:application/json;charset=utf-8,${encodeURIComponent(text)}`}
                  download={name}
                >
                  Save it
                </a>
                {report.index && (
                  <button
                    className="btn btn-paper btn-sm"
                    disabled={busy}
                    onClick={() =>
                      void change('/index', 'POST', { text, takeOver: true }, 'Calls taken over.')
                    }
                  >
                    <Check size={14} /> Take its calls over
                  </button>
                )}
              </>
            )}
          </div>
          {report && isOther && <Lines before={text} after={mended!} />}
        </div>
        {report ? (
          <Report report={report} />
        ) : (
          <p className="text-soft">
            Missing quotation marks, commas, colons and brackets are found with line and column, and
            mended in view before anything is taken over. Paths that lead nowhere and sounds that
            nothing plays are listed against what goes to “{brief.title}”.
          </p>
        )}
      </div>
      {report && report.calls.length > 0 && (
        <p className="text-soft mt-3 text-xs">
          It names {plural(report.calls.length, 'call')}:{' '}
          {report.calls
            .slice(0, 12)
            .map(({ id }) => id)
            .join(', ')}
          {report.calls.length > 12 && ' …'}
        </p>
      )}
    </section>
  );
}
