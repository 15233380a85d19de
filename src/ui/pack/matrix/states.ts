import {
  ArrowRight,
  BadgeCheck,
  Ban,
  Check,
  CircleHelp,
  CircleX,
  Equal,
  History,
  Hourglass,
  LoaderCircle,
  type LucideIcon,
} from 'lucide-react';
import type { Cell, CellState } from '@/wire';

/** How a state of a cell is shown: by a sign and a word, never by colour alone. */
export interface StateSign {
  icon: LucideIcon;
  /** On the cell. */
  word: string;
  /** In lists and tips: "12 need a decision". */
  phrase: string;
  className: string;
  /** More of it, for tips and readers. */
  said?: string;
}

/** Every state, in the order in which people look for them: first what somebody has to do something about. */
export const stateSigns: Readonly<Record<CellState, StateSign>> = {
  decide: {
    icon: CircleHelp,
    word: 'decide',
    phrase: 'need a decision',
    className: 'text-warning font-semibold',
  },
  cannot: { icon: Ban, word: 'cannot', phrase: 'cannot be met', className: 'text-error' },
  failed: {
    icon: CircleX,
    word: 'failed',
    phrase: 'failed',
    className: 'text-error font-semibold',
  },
  outdated: { icon: History, word: 'old', phrase: 'out of date', className: 'text-warning' },
  convert: { icon: ArrowRight, word: 'convert', phrase: 'will be converted', className: '' },
  fits: { icon: Equal, word: 'fits', phrase: 'fit as they are', className: '' },
  working: {
    icon: LoaderCircle,
    word: 'building',
    phrase: 'being built',
    className: 'text-primary',
  },
  checking: {
    icon: Hourglass,
    word: 'checking',
    phrase: 'being checked',
    className: 'text-soft',
  },
  built: { icon: Check, word: 'built', phrase: 'built', className: 'text-success' },
};

/** The sign of a cell: with what its host said of its files, where that has said something. */
export function signOf({ state, rehearsed }: Pick<Cell, 'state' | 'rehearsed'>): StateSign {
  const sign = stateSigns[state];
  if (state !== 'built' || rehearsed === null) return sign;
  if (rehearsed === '') {
    return { ...sign, icon: BadgeCheck, said: 'built, accepted by its host' };
  }
  const said = `built, refused by its host: ${rehearsed}`;
  return { ...sign, icon: CircleX, word: 'refused', className: 'text-error font-semibold', said };
}

export const cellStates = Object.keys(stateSigns) as CellState[];

/** States in which something can be built. */
export const buildable: ReadonlySet<CellState> = new Set(['fits', 'convert', 'outdated', 'failed']);
