'use client';

import { textNames, type LayoutText, type TextId } from '@/core/brief/layout';
import { manifestKinds } from '@/core/pack/manifests';
import { templateNames } from '@/core/pack/texts/names';
import { Text } from '../parts';
import type { LayoutEditing } from './editing';
import { Lines } from './Lines';

const TEMPLATE = 'template';

/** Texts that lie beside the sounds: manifests of Bijou, or templates. */
export function TextFields({ editing }: { editing: LayoutEditing }) {
  const { layout, putLayout } = editing;
  const texts = layout.texts ?? [];
  return (
    <>
      <Lines<LayoutText>
        label={['Texts beside the sounds', 'text']}
        field="layout.texts"
        items={texts}
        fresh={() => ({ path: 'assets.json', manifest: 'asset-list' })}
        editing={editing}
        onChange={(next) => putLayout({ texts: next })}
      >
        {(text, put, name) => (
          <>
            <Text
              label={`Path of ${name}`}
              value={text.path}
              most={240}
              className="input-xs w-40"
              onChange={(path) => put({ path: path ?? '' })}
            />
            <select
              className="select select-xs w-44"
              aria-label={`What ${name} is`}
              value={text.manifest ?? TEMPLATE}
              onChange={({ target: { value } }) => put(changedTo(value))}
            >
              {manifestKinds.map(({ id, title }) => (
                <option key={id} value={id}>
                  {title}
                </option>
              ))}
              <option value={TEMPLATE}>a template of your own</option>
            </select>
            {text.manifest === undefined && (
              <select
                className="select select-xs w-28"
                aria-label={`What ${name} claims to be`}
                value={text.is ?? 'text'}
                onChange={({ target: { value } }) => put({ is: value as TextId })}
              >
                {Object.entries(textNames).map(([id, title]) => (
                  <option key={id} value={id}>
                    {title}
                  </option>
                ))}
              </select>
            )}
            <label className="flex items-center gap-1 text-xs">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={text.encoding === 'ascii'}
                onChange={() => put({ encoding: text.encoding === 'ascii' ? undefined : 'ascii' })}
              />
              ASCII alone
            </label>
            {text.manifest === undefined && (
              <textarea
                className="textarea textarea-xs w-full max-w-2xl font-mono"
                aria-label={`Template of ${name}`}
                rows={6}
                maxLength={200_000}
                spellCheck={false}
                value={text.template ?? ''}
                onChange={({ target: { value } }) => put({ template: value })}
              />
            )}
          </>
        )}
      </Lines>
      {texts.some(({ manifest }) => manifest === undefined) && (
        <details className="text-xs sm:ml-[11.75rem]">
          <summary className="text-soft cursor-pointer">What a template can say</summary>
          <p className="text-soft mt-1">
            Names in double braces, as in {'{{title}}'}. A list is gone through from {'{{#sounds}}'}{' '}
            to {'{{/sounds}}'}; {'{{^last}},{{/last}}'} puts a comma behind all but the last. Every
            value is written as the kind of text needs it.
          </p>
          <dl className="mt-1 grid grid-cols-[auto_minmax(0,1fr)] gap-x-4">
            {Object.entries(templateNames).map(([name, means]) => (
              <div key={name} className="contents">
                <dt className="font-semibold">{name}</dt>
                <dd>{means}</dd>
              </div>
            ))}
          </dl>
        </details>
      )}
    </>
  );
}

/** The other kind, with nothing left over of the one that it was. */
function changedTo(kind: string): Partial<LayoutText> {
  if (kind === TEMPLATE) {
    return {
      manifest: undefined,
      options: undefined,
      is: 'json',
      template: '{ "title": "{{title}}" }\n',
    };
  }
  const { path } = manifestKinds.find(({ id }) => id === kind)!;
  return { manifest: kind, options: undefined, is: undefined, template: undefined, path };
}
