/** The shapes that travel between server and browser. Types only: both sides share them, neither owns code here. */
export type * from './briefs';
export type * from './builds';
export type * from './collect';
export type * from './compare';
export type * from './doctor';
export type * from './history';
export type * from './oneOff';
export type * from './pack';
export type * from './packs';
export type * from './project';
export type * from './rehearsals';
export type * from './shape';
export type * from './sounds';
export type * from './work';
