'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { storedBrief } from '@/core/brief/catalogue';
import type { Brief } from '@/core/brief/schema';
import { groupBy } from '@/core/group';
import type { Cell, Sound } from '@/wire';
import { useProject } from '../../shared/project';
import { Destination } from './Destination';
import { Line } from './Line';

/** What stands below one another: the head of a destination, or a sound that goes there. */
type Item = { key: string; brief: Brief; cells: readonly Cell[]; isLast: boolean } & (
  { cell: null; sound: null } | { cell: Cell; sound: Sound }
);

/** Before anything was drawn: about how high they are. */
const HEAD_PIXELS = 148;
const LINE_PIXELS = 104;
const GAP_PIXELS = 32;

/** All destinations with what goes to each. Only what is in view is on the page, however much there is. */
export function Destinations() {
  const items = useItems();
  const list = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  // How far down the list begins in what is scrolled.
  useLayoutEffect(() => {
    const scrolled = list.current?.closest('main');
    if (!list.current || !scrolled) return;
    const distance =
      list.current.getBoundingClientRect().top - scrolled.getBoundingClientRect().top;
    setTop(distance + scrolled.scrollTop);
  }, []);
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => list.current?.closest('main') ?? null,
    estimateSize: (i) =>
      (items[i]!.cell ? LINE_PIXELS : HEAD_PIXELS) + (items[i]!.isLast ? GAP_PIXELS : 0),
    getItemKey: (i) => items[i]!.key,
    overscan: 4,
    scrollMargin: top,
    // Before the page knows its own size: what fits a usual window.
    initialRect: { width: 1200, height: 700 },
  });
  const height = virtual.getTotalSize();
  useFragment(height, (fragment) => {
    const at = items.findIndex(({ brief, cell }) =>
      cell
        ? fragment === `sound-${cell.soundId}` || fragment === `sound-${cell.soundId}-${brief.id}`
        : fragment === brief.id,
    );
    if (at >= 0) virtual.scrollToIndex(at, { align: 'start' });
  });
  const shown = groupBy(virtual.getVirtualItems(), ({ index }) => items[index]!.brief);
  return (
    <div ref={list} className="relative" style={{ height }}>
      {[...shown].map(([brief, inView]) => {
        const placed = inView.map(({ index, start }) => ({
          index,
          item: items[index]!,
          place: {
            ref: virtual.measureElement,
            'data-index': index,
            className: `absolute inset-x-0 top-0 ${items[index]!.isLast ? 'pb-8' : ''}`,
            style: { transform: `translateY(${start - top}px)` },
          },
        }));
        const head = placed.find(({ item }) => !item.cell);
        return (
          <section key={brief.id} aria-label={brief.title}>
            {head && (
              <div {...head.place}>
                <Destination brief={brief} cells={head.item.cells} />
              </div>
            )}
            <ul>
              {placed.map(
                ({ item, place }) =>
                  item.cell && (
                    <li key={item.key} {...place}>
                      <Line
                        brief={brief}
                        cell={item.cell}
                        sound={item.sound}
                        isLast={item.isLast}
                      />
                    </li>
                  ),
              )}
            </ul>
          </section>
        );
      })}
    </div>
  );
}

/** Every brief there is, also one that is only known by name, and below each what goes to it. */
function useItems(): Item[] {
  const { briefs, cells, sounds } = useProject();
  return useMemo(() => {
    const byId = new Map(sounds.map((sound) => [sound.id, sound]));
    const byBrief = groupBy(cells, ({ briefId }) => briefId);
    const unknown = [...byBrief.keys()].filter((id) => !briefs.some((brief) => brief.id === id));
    const all = [...briefs, ...unknown.map((id) => storedBrief(briefs, id))];
    return all.flatMap((brief): Item[] => {
      const own = byBrief.get(brief.id) ?? [];
      const common = { brief, cells: own };
      const lines = own.flatMap((cell): Item[] => {
        const sound = byId.get(cell.soundId);
        return sound
          ? [{ ...common, key: `cell-${cell.id}`, cell, sound, isLast: cell === own.at(-1) }]
          : [];
      });
      const isLast = lines.length === 0;
      return [{ ...common, key: brief.id, cell: null, sound: null, isLast }, ...lines];
    });
  }, [briefs, cells, sounds]);
}

/**
 * Goes to what the address names behind its #, at first and whenever it comes to name something else. Until
 * somebody does something, it stays there while what lies above it gets its height.
 */
function useFragment(height: number, go: (fragment: string) => void): void {
  const latest = useRef(go);
  latest.current = go;
  const target = useRef('');
  useEffect(() => {
    const follow = () => {
      target.current = decodeURIComponent(location.hash.slice(1));
      if (target.current) latest.current(target.current);
    };
    const stay = () => (target.current = '');
    follow();
    window.addEventListener('hashchange', follow);
    for (const kind of deeds) window.addEventListener(kind, stay);
    return () => {
      window.removeEventListener('hashchange', follow);
      for (const kind of deeds) window.removeEventListener(kind, stay);
    };
  }, []);
  useEffect(() => {
    if (target.current) latest.current(target.current);
  }, [height]);
}

/** What people do to a page. */
const deeds = ['wheel', 'pointerdown', 'keydown', 'touchstart'] as const;
