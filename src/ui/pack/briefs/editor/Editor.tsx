'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BriefText } from '@/core/brief/schema';
import type { ErrorFacts } from '@/core/errors';
import type { BriefCheck } from '@/wire';
import { ApiError, call } from '../../../shared/api';
import { useProject } from '../../../shared/project';
import { useAction } from '../../../shared/useAction';
import { AllFields } from './AllFields';
import { FileFields } from './FileFields';
import type { Editing } from './editing';
import { Area, Problem, Row, Section, Text } from './parts';

/** A brief of one's own, demand by demand. It is checked while one types, and kept when it is right. */
export function Editor({ text: stored, onDone }: { text: BriefText; onDone: () => void }) {
  const { project } = useProject();
  const { run, busy } = useAction();
  const [text, setText] = useState(stored);
  const { data: problem = null } = useQuery({
    queryKey: ['brief-check', text],
    queryFn: () => problemOf(project.id, text),
    placeholderData: (before) => before,
    retry: false,
  });
  const editing: Editing = {
    text,
    put: (change) => setText({ ...text, ...change }),
    problem,
  };
  const isChanged = JSON.stringify(text) !== JSON.stringify(stored);
  return (
    <form
      aria-label={`Edit ${stored.title}`}
      className="border-base-300 bg-base-100 min-w-0 border p-5"
      onSubmit={(event) => {
        event.preventDefault();
        void run(async () => {
          await call(`projects/${project.id}/briefs/${text.id}`, 'PUT', text);
          onDone();
        });
      }}
    >
      <div className="bg-base-100 sticky top-0 z-[1] -mt-2 mb-3 py-2">
        <div className="flex flex-wrap items-center gap-2">
          <h2 className="font-serif text-2xl">Edit “{stored.title}”</h2>
          <div className="ml-auto flex gap-2">
            <button type="button" className="btn btn-paper btn-sm" onClick={onDone}>
              Leave as it was
            </button>
            <button
              className="btn btn-primary btn-sm"
              disabled={busy || !isChanged || problem !== null}
              title={problem ? problem.message : 'Keeps it as its next version'}
            >
              Keep
            </button>
          </div>
        </div>
        {problem && (
          <p role="alert" className="text-error mt-1">
            {problem.message} {problem.hint}
          </p>
        )}
      </div>
      <Section title="What it is">
        <Row label="Title" {...{ editing }} field="title">
          <Text
            label="Title"
            value={text.title}
            most={200}
            onChange={(title) => editing.put({ title: title ?? '' })}
          />
        </Row>
        <Row label="Who takes these files" {...{ editing }} field="purpose">
          <Text
            label="Who takes these files"
            value={text.purpose}
            most={1_000}
            onChange={(purpose) => editing.put({ purpose: purpose ?? '' })}
          />
        </Row>
        <Row label="What people should know" {...{ editing }} field="about">
          <Area
            label="What people should know"
            value={text.about ?? ''}
            most={4_000}
            onChange={(about) => editing.put({ about: about || undefined })}
          />
        </Row>
      </Section>
      {text.files.map((file, i) => (
        <Section key={file.id} title={text.files.length > 1 ? `File “${file.id}”` : 'The file'}>
          <FileFields
            file={file}
            path={`files[${i}]`}
            editing={editing}
            isOnly={text.files.length === 1}
            onChange={(changed) =>
              editing.put({
                files: text.files.flatMap((one, at) =>
                  at === i ? (changed === null ? [] : [changed]) : [one],
                ),
              })
            }
          />
        </Section>
      ))}
      <AddFile editing={editing} />
      <AllFields editing={editing} />
      <Problem editing={editing} field="" />
    </form>
  );
}

/** One more file of each sound, side by side with the others. */
function AddFile({ editing: { text, put } }: { editing: Editing }) {
  const freeId = () => {
    const taken = new Set(text.files.map(({ id }) => id));
    for (let n = 2; ; n++) if (!taken.has(`file-${n}`)) return `file-${n}`;
  };
  return (
    <button
      type="button"
      className="btn btn-ghost btn-sm mb-3"
      title="Several encodings of one sound lie side by side"
      onClick={() => put({ files: [...text.files, { id: freeId(), writer: 'ogg', settings: {} }] })}
    >
      One more file of each sound
    </button>
  );
}

async function problemOf(projectId: number, text: BriefText): Promise<ErrorFacts | null> {
  try {
    await call<BriefCheck>(`projects/${projectId}/briefs/check`, 'POST', text);
    return null;
  } catch (error) {
    if (error instanceof ApiError) return error.facts;
    throw error;
  }
}
