'use client';

import { ImageUp, RotateCcw } from 'lucide-react';
import { useRef } from 'react';
import { askServer } from '@/player/asking';
import type { Brief } from '@/core/brief/schema';
import type { PackPart } from '@/wire';
import { either } from '../../shared/format';
import { useSettling } from './asking';

/** The icon of a pack: drawn of its title, or one that is given. */
export function Icon({ brief, part }: { brief: Brief; part: PackPart }) {
  const { change, run, busy, path } = useSettling(brief.id);
  const field = useRef<HTMLInputElement>(null);
  const { sizes } = part.layout!.icon!;
  const given = part.settings.icon;
  const give = (file: File | undefined) => {
    if (file) void run(() => askServer(`/api/${path}/icon`, { method: 'PUT', file }));
  };
  return (
    <section
      aria-label="Icon"
      className="border-base-300 bg-base-100 w-56 border px-4 py-3"
      onDragOver={(event) => {
        event.preventDefault();
        event.stopPropagation();
      }}
      onDrop={(event) => {
        event.preventDefault();
        event.stopPropagation();
        give(event.dataTransfer.files[0]);
      }}
    >
      <h3 className="font-serif text-lg">Icon</h3>
      <img
        className="my-2"
        src={`/api/${path}/icon?of=${encodeURIComponent(given?.sha256 ?? part.title)}`}
        alt={given ? 'The icon that was given' : `An icon drawn of “${part.title}”`}
        width={72}
        height={72}
      />
      <p className="text-soft text-xs">
        {given ? 'As it was given.' : 'Drawn of the title.'} PNG,{' '}
        {either(sizes.map((size) => `${size} × ${size}`))}.
      </p>
      <div className="mt-2 flex gap-1.5">
        <button
          className="btn btn-paper btn-xs"
          disabled={busy}
          onClick={() => field.current?.click()}
        >
          <ImageUp size={13} /> Give one
        </button>
        {given && (
          <button
            className="btn btn-ghost btn-xs"
            disabled={busy}
            onClick={() => void change('/icon', 'DELETE', undefined, 'The icon is drawn again.')}
          >
            <RotateCcw size={13} /> Draw it
          </button>
        )}
      </div>
      <input
        ref={field}
        type="file"
        accept="image/png"
        className="hidden"
        aria-label="Icon file"
        onChange={(event) => {
          give(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    </section>
  );
}
