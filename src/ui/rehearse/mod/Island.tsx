'use client';

import { islandPlaces } from '@/core/host/mod/places';

/** Where each place is in the picture. */
const spots: Readonly<
  Record<string, { x: number; y: number; anchor: 'start' | 'middle' | 'end' }>
> = {
  landing: { x: 96, y: 292, anchor: 'middle' },
  shore: { x: 208, y: 316, anchor: 'middle' },
  cave: { x: 330, y: 306, anchor: 'middle' },
  house: { x: 236, y: 228, anchor: 'end' },
  gallery: { x: 408, y: 118, anchor: 'start' },
  lamp_room: { x: 376, y: 68, anchor: 'end' },
};

/**
 * Marrow Skerry from the boat.
 * @param water −1 low … 1 high
 */
export function Island({
  water,
  at,
  heard,
  silent,
  onWalk,
}: {
  water: number;
  /** The place where one stands. */
  at: string | null;
  /** Whether its music sounds. */
  heard: boolean;
  /** Places that have no music. */
  silent: ReadonlySet<string>;
  onWalk?: (id: string) => void;
}) {
  const level = 324 - 10 * water;
  return (
    <svg viewBox="0 28 560 322" className="w-full" role="group" aria-label="Marrow Skerry">
      <rect width="560" height="380" fill="#cfd6d2" />
      <path d="M0 96q90-40 190-14t220-16 150 8v-74H0z" fill="#b4bfbd" />
      <path
        d="M40 120q70-18 130 0M330 60q80-22 170 4"
        fill="none"
        stroke="#e6e8e0"
        strokeWidth="10"
        strokeLinecap="round"
        opacity=".8"
      />
      <circle cx="86" cy="70" r="24" fill="#f1e6c4" />
      <path
        d="M40 346q18-54 70-58 40 0 62 18 24-66 96-74 54-4 74 38 20-58 62-66 60-6 92 70 20 44 26 72z"
        fill="#5f6159"
      />
      <path d="M176 306q24-64 92-74 54-4 74 38l-18 28q-60 26-148 8z" fill="#7b8266" />
      <path d="M300 346q4-34 30-34t28 34z" fill="#26302f" />
      <path d="M356 204l10-104h32l12 104q-28 12-54 0z" fill="#f3ecdc" />
      <path d="M362 178h42l-3-26h-37zM366 122h32l-2-20h-28z" fill="#8d3b2d" />
      <path d="M352 100h60v7h-60z" fill="#3b3226" />
      <path
        d="M354 100v-11M364 100v-11M376 100v-11M388 100v-11M400 100v-11M410 100v-11M352 89h60"
        stroke="#3b3226"
        strokeWidth="2"
      />
      <rect x="368" y="64" width="28" height="30" fill="#f7e3a0" />
      <path d="M364 66q18-28 36 0z" fill="#3b3226" />
      <path d="M376 64v30M387 64v30" stroke="#3b3226" strokeWidth="1.5" />
      <path d="M212 234v-30h58v34q-30 4-58-4z" fill="#efe6d2" />
      <path d="M204 206l37-24 38 24z" fill="#53453a" />
      <path d="M224 234v-17h10v18M248 214h10v9h-10z" fill="#53453a" />
      <path d="M60 316l66-10 4 8-66 12z" fill="#6f5a3c" />
      <path d="M70 318v30M96 314v34M120 310v34" stroke="#6f5a3c" strokeWidth="4" />
      <path
        d={`M0 ${level}q40-9 80 0t80 0 80 0 80 0 80 0 80 0 80 0v70H0z`}
        fill="#4f7480"
        opacity=".9"
      />
      <path
        d={`M0 ${level + 16}q40-7 80 0t80 0 80 0 80 0 80 0 80 0 80 0`}
        fill="none"
        stroke="#86a5ab"
        strokeWidth="2.5"
      />
      <path d={`M${34} ${level + 2}q26 16 54 0l-8 14h-38z`} fill="#7b3f2c" />
      {islandPlaces.map(({ id, title }) => {
        const { x, y, anchor } = spots[id]!;
        const isAt = id === at;
        const isMute = silent.has(id);
        return (
          <g
            key={id}
            {...(onWalk && {
              role: 'button',
              tabIndex: 0,
              className: 'cursor-pointer',
              'aria-label': `Walk to ${title}${isMute ? ', which has no music' : ''}`,
              'aria-pressed': isAt,
              onClick: () => onWalk(id),
              onKeyDown: ({ key }: React.KeyboardEvent) => {
                if (key === 'Enter' || key === ' ') onWalk(id);
              },
            })}
          >
            {isAt && heard && (
              <circle
                cx={x}
                cy={y}
                r="16"
                fill="none"
                stroke="#5d2a72"
                strokeWidth="2"
                className="motion-safe:animate-ping"
                style={{ transformOrigin: `${x}px ${y}px` }}
              />
            )}
            <path
              d={`M${x} ${y - 9}l9 9-9 9-9-9z`}
              fill={isAt ? '#5d2a72' : '#fdfaf3'}
              stroke="#26221b"
              strokeWidth="1.5"
              strokeDasharray={isMute ? '3 2' : undefined}
            />
            <text
              x={anchor === 'start' ? x + 14 : anchor === 'end' ? x - 14 : x}
              y={anchor === 'middle' ? y + 24 : y + 4}
              textAnchor={anchor}
              fontSize="13"
              fontWeight={isAt ? 700 : 500}
              fill="#26221b"
              stroke="#fdfaf3"
              strokeWidth="3"
              paintOrder="stroke"
            >
              {title.replace(/^the /, '')}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
