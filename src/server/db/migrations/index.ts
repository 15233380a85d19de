import { first } from './001First';
import { measures } from './002Measures';
import { collect } from './003Collect';
import { shape } from './004Shape';
import { firm } from './005Firm';
import { apart } from './006Apart';
import { outcome } from './007Outcome';
import { sending } from './008Sending';
import { projects } from './009Projects';
import { reading } from './010Reading';
import { oneOffs } from './011OneOffs';
import { ownBriefs } from './012OwnBriefs';
import { handovers } from './013Handovers';
import { languages } from './014Languages';
import { builds } from './015Builds';
import { trials } from './016Trials';
import { packs } from './017Packs';
import { rehearsals } from './018Rehearsals';
import { timing } from './019Timing';
import { cells } from './020Cells';
import { orders } from './021Orders';
import { orderRanks } from './022OrderRanks';

/** In order. A migration that has landed is never changed; the next one is added. */
export const migrations: readonly string[] = [
  first,
  measures,
  collect,
  shape,
  firm,
  apart,
  outcome,
  sending,
  projects,
  reading,
  oneOffs,
  ownBriefs,
  handovers,
  languages,
  builds,
  trials,
  packs,
  rehearsals,
  timing,
  cells,
  orders,
  orderRanks,
];
