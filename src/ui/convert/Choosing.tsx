'use client';

import { History } from 'lucide-react';
import { useDeferredValue, useState } from 'react';
import type { FormatChoice } from '@/core/formats/legality';
import type { OneOffWish } from '@/core/oneOff/plan';
import type { OneOffSet, Sound } from '@/wire';
import { plural, size } from '../shared/format';
import { SendTo } from '../shared/SendTo';
import { useAction } from '../shared/useAction';
import { useBegin, useFormats, useLatest, useOutlook } from './api';
import { closeConvert, showConversion } from './convert';
import { DropHere } from './DropHere';
import { sumOf, useEstimates } from './estimates';
import { Fields } from './Fields';
import { FormatPicker } from './FormatPicker';
import { KeepAsBrief } from './KeepAsBrief';
import { Notices } from './Notices';
import { SoundList } from './SoundList';
import { expectedText, isClose, ratioText, wishText } from './words';

const FIRST_FORMAT = 'ogg';

/** What is to become of the sounds, with what it will come to while one chooses. */
export function Choosing({ sounds }: { sounds: readonly Sound[] }) {
  const formats = useFormats();
  const latest = useLatest();
  const begin = useBegin();
  const { run, busy } = useAction();
  const [wish, setWish] = useState<OneOffWish>({ writer: FIRST_FORMAT, settings: {} });
  const format = formats.find(({ id }) => id === wish.writer);
  const ready = sounds.filter(({ facts, state }) => facts !== null && state === 'ready');
  const ids = ready.map(({ id }) => id);
  const outlook = useOutlook(ids, useDeferredValue(wish));
  const outlooks = outlook?.sounds ?? [];
  const expected = useEstimates(ready, outlooks, wish);
  if (sounds.length === 0) return <DropHere latest={latest ?? null} />;
  if (!format) return <p className="text-soft mt-4">One moment …</p>;

  const able = outlooks.filter(({ error }) => error === null);
  const waiting = sounds.length - ready.length;
  const before = ready.reduce((sum, { bytes }) => sum + bytes, 0);
  const total = sumOf(expected.values());
  const isKnown = able.length > 0 && able.every(({ soundId }) => expected.has(soundId));
  const convert = () =>
    run(async () => {
      showConversion(await begin(ids, wish));
    });
  return (
    <form
      className="mt-3 space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        void convert();
      }}
    >
      {latest && <AsLastTime latest={latest} wish={wish} formats={formats} onUse={setWish} />}
      <FormatPicker
        formats={formats}
        value={wish.writer}
        // What was set for one format means nothing for another; rate and channels do.
        onChange={(writer) => setWish({ ...wish, writer, settings: {}, rateHz: undefined })}
      />
      <Fields
        format={format}
        dials={outlook?.dials ?? format.dials}
        wish={wish}
        onWish={setWish}
        hasSteps={ready.filter(({ recipe }) => recipe.steps.some(({ on }) => on)).length}
        count={ready.length}
      />
      <SoundList sounds={sounds} outlooks={outlooks} expected={expected} />
      <Notices format={format} sounds={ready} outlooks={outlooks} wish={wish} onWish={setWish} />
      <div className="border-base-300 flex flex-wrap items-center gap-x-3 gap-y-2 border-t pt-3">
        <p className="mr-auto" role="status">
          {waiting > 0 && (
            <span className="text-soft">{plural(waiting, 'sound')} being read … </span>
          )}
          {isKnown && (
            <>
              {size(before)} → <strong>{expectedText(total)}</strong>{' '}
              <span className="text-soft">{isClose(total) && ratioText(before, total.most)}</span>
            </>
          )}
        </p>
        <KeepAsBrief ids={ids} wish={wish} suggestion={format.name} />
        <SendTo soundIds={ids} face="Build for a destination…" className="btn btn-ghost btn-sm" />
        <button type="button" className="btn btn-ghost btn-sm" onClick={closeConvert}>
          Cancel
        </button>
        <button
          type="submit"
          className="btn btn-primary btn-sm"
          disabled={busy || waiting > 0 || able.length === 0}
        >
          Convert {able.length === 1 ? 'it' : plural(able.length, 'sound')}
        </button>
      </div>
    </form>
  );
}

/** What was chosen the last time, to be had by one press: nothing is taken over unseen. */
function AsLastTime({
  latest,
  wish,
  formats,
  onUse,
}: {
  latest: OneOffSet;
  wish: OneOffWish;
  formats: readonly FormatChoice[];
  onUse: (wish: OneOffWish) => void;
}) {
  // What was decided about other sounds' peaks is no wish for these.
  const last = { ...latest.wish, clipping: undefined };
  const isSame = wishText(last, formats) === wishText(wish, formats);
  return (
    <p className="text-soft flex flex-wrap items-center gap-x-4 gap-y-1 text-xs">
      <History size={13} aria-hidden className="-mr-2" />
      {isSame ? (
        <span>As last time: {wishText(last, formats)}</span>
      ) : (
        <button type="button" className="link link-primary" onClick={() => onUse(last)}>
          As last time: {wishText(last, formats)}
        </button>
      )}
      <button type="button" className="link link-primary" onClick={() => showConversion(latest.id)}>
        What came of it
      </button>
    </p>
  );
}
