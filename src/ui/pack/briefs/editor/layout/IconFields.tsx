'use client';

import { useState } from 'react';
import { Row, Text } from '../parts';
import type { LayoutEditing } from './editing';

/** Whether there is an icon, where it lies, and how large it may be. */
export function IconFields({ editing }: { editing: LayoutEditing }) {
  const { layout, putLayout } = editing;
  const { icon } = layout;
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <Row label="Icon" field="layout.icon" editing={editing}>
      <label className="flex items-center gap-1">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={icon !== undefined}
          onChange={() =>
            putLayout({ icon: icon ? undefined : { path: 'icon.png', sizes: [128] } })
          }
        />
        it has one
      </label>
      {icon && (
        <>
          <Text
            label="Path of the icon"
            value={icon.path}
            most={240}
            className="input-xs w-40"
            onChange={(path) => putLayout({ icon: { ...icon, path: path ?? '' } })}
          />
          <input
            className="input input-xs w-40"
            aria-label="Sizes of the icon"
            title="Widths in pixels, the one that is drawn first"
            maxLength={100}
            value={typed ?? icon.sizes.join(', ')}
            onChange={({ target: { value } }) => {
              setTyped(value);
              const sizes = value
                .split(/[,;\s]+/)
                .filter(Boolean)
                .map(Number);
              putLayout({ icon: { ...icon, sizes } });
            }}
            onBlur={() => setTyped(null)}
          />
          <span className="text-soft text-xs">pixels, square</span>
        </>
      )}
    </Row>
  );
}
