'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useKeys } from '../../shared/keys';
import { lineQuery } from '../../shared/lines';
import { useProject } from '../../shared/project';
import { useSending } from '../../shared/useSending';
import { play } from '../../strip/listening';
import { useCue } from '../../strip/useCue';
import { CellPanel } from '../cell/CellPanel';
import { MissingLines } from '../MissingLines';
import { PackHead } from '../PackHead';
import { addressedCell, cellAddress } from './address';
import { Filters } from './Filters';
import { Grid } from './Grid';
import { MarkedBar } from './MarkedBar';
import { useMatrixView, type MatrixView } from './rows';
import { useBuild } from '../making';
import {
  goTo,
  markAll,
  markTo,
  openCell,
  placeOf,
  toggleMarks,
  unmark,
  useMatrix,
  type Place,
} from './store';

/** The matrix of sounds and destinations: what is ready, what will be made, what waits for somebody. */
export function MatrixPage() {
  const { project, sounds } = useProject();
  const client = useQueryClient();
  const cue = useCue();
  const view = useMatrixView();
  const { build } = useBuild();
  const { sendPlaces, releasePlaces } = useSending();
  const field = useRef<HTMLInputElement>(null);
  const isOpen = useMatrix((state) => state.isOpen);
  const at = useMatrix((state) => state.at);

  // An address that names a cell opens it; which one is open then stands in the address.
  useEffect(() => {
    const addressed = addressedCell(window.location.search);
    if (!addressed) return;
    goTo(addressed);
    openCell(true);
  }, []);
  // While the page is still being gone to, its address is the router's affair.
  const isThere = useRef(false);
  useEffect(() => {
    const path = isOpen && at ? cellAddress(project.id, at) : `/p/${project.id}/pack`;
    const { pathname, search } = window.location;
    if (isThere.current && path !== pathname + search) window.history.replaceState(null, '', path);
    isThere.current = true;
  }, [isOpen, at, project.id]);

  const point = (place: Place, { toggle, extend }: { toggle: boolean; extend: boolean }) => {
    if (extend) markTo(place, (from, to) => between(view, from, to));
    else if (toggle) toggleMarks([place]);
    else goTo(place);
  };
  const open = (place: Place) => {
    goTo(place);
    if (!view.cellAt(place.soundId, place.briefId)) void sendPlaces([place]);
    openCell(true);
  };
  const send = (soundIds: readonly number[], briefId: string) =>
    void sendPlaces(
      soundIds
        .filter((soundId) => !view.cellAt(soundId, briefId))
        .map((soundId) => ({ soundId, briefId })),
    );
  // One object for all cells, so that they are only drawn anew when something of theirs changes.
  const latest = useRef({ point, open });
  latest.current = { point, open };
  const [actions] = useState(() => ({
    onPoint: (...args: Parameters<typeof point>) => latest.current.point(...args),
    onOpen: (place: Place) => latest.current.open(place),
  }));
  const step = (down: number, across: number, extend: boolean) => {
    const next = moved(view, useMatrix.getState().at, down, across);
    if (next) point(next, { toggle: false, extend });
  };
  /** Goes to the next finished cell, and plays what was made for it. */
  const hearNext = async () => {
    const built = view.cells.filter(({ finished }) => finished > 0);
    const here = built.findIndex(
      ({ soundId, briefId }) => soundId === at?.soundId && briefId === at.briefId,
    );
    const cell = built[(here + 1) % built.length];
    const sound = sounds.find(({ id }) => id === cell?.soundId);
    if (!cell || !sound) return;
    goTo({ soundId: cell.soundId, briefId: cell.briefId });
    const line = await client.fetchQuery(lineQuery(project.id, cell));
    const output = line?.outputs.find(({ upToDate, sha256 }) => upToDate && sha256 !== null);
    if (!output) return;
    cue(sound, { key: `output-${output.id}` });
    play({ frame: 0, range: null });
  };
  const meant = (): Place[] => {
    const { marked, at: here } = useMatrix.getState();
    return marked.size > 0 ? [...marked].map(placeOf) : here ? [here] : [];
  };
  const cellsOf = (places: readonly Place[]) =>
    places.flatMap(({ soundId, briefId }) => view.cellAt(soundId, briefId) ?? []);
  const sendOrRelease = () => {
    const places = meant();
    const empty = places.filter(({ soundId, briefId }) => !view.cellAt(soundId, briefId));
    void (empty.length > 0 ? sendPlaces(empty) : releasePlaces(cellsOf(places)));
  };
  useKeys({
    up: () => step(-1, 0, false),
    down: () => step(1, 0, false),
    left: () => step(0, -1, false),
    right: () => step(0, 1, false),
    'shift+up': () => step(-1, 0, true),
    'shift+down': () => step(1, 0, true),
    'shift+left': () => step(0, -1, true),
    'shift+right': () => step(0, 1, true),
    home: () => step(-Infinity, 0, false),
    end: () => step(Infinity, 0, false),
    pageup: () => step(-15, 0, false),
    pagedown: () => step(15, 0, false),
    'ctrl+a': () => markAll(view.cells.map(({ soundId, briefId }) => ({ soundId, briefId }))),
    enter: () => at && open(at),
    x: () => at && toggleMarks([at]),
    a: sendOrRelease,
    c: () => void build(cellsOf(meant())),
    h: () => void hearNext(),
    '/': () => field.current?.focus(),
    escape: () => {
      if (useMatrix.getState().marked.size > 0) unmark();
      else openCell(false);
    },
  });
  const opened = isOpen && at ? view.cellAt(at.soundId, at.briefId) : undefined;
  return (
    <div className="flex min-h-full flex-col px-6 pt-4 pb-3 md:h-full">
      <PackHead view="matrix" />
      <Filters view={view} field={field} />
      {view.columns.map((brief) => (
        <MissingLines key={brief.id} brief={brief} />
      ))}
      {view.rows.length === 0 ? (
        <p className="text-soft py-10 text-center">
          No sound is meant by that.{' '}
          <button
            className="link link-primary"
            onClick={() => useMatrix.setState({ search: '', states: new Set() })}
          >
            Show all
          </button>
        </p>
      ) : (
        <div className="flex min-h-0 flex-1 flex-col gap-3 lg:flex-row">
          <Grid view={view} actions={actions} onSend={send} />
          {opened && <CellPanel key={opened.id} cell={opened} onClose={() => openCell(false)} />}
        </div>
      )}
      <MarkedBar view={view} onBuild={(cells) => void build(cells)} />
    </div>
  );
}

/** The places of a rectangle, whichever of its corners are told. */
function between(view: MatrixView, from: Place, to: Place): Place[] {
  const sounds = view.rows.flatMap((row) => (row.kind === 'sound' ? row.sound.id : []));
  const briefs = view.columns.map(({ id }) => id);
  const part = <T,>(list: readonly T[], a: T, b: T) => {
    const [i, j] = [list.indexOf(a), list.indexOf(b)];
    return list.slice(Math.min(i, j), Math.max(i, j) + 1);
  };
  const across = part(briefs, from.briefId, to.briefId);
  return part(sounds, from.soundId, to.soundId).flatMap((soundId) =>
    across.map((briefId) => ({ soundId, briefId })),
  );
}

/** The place so many lines and columns on; the first one from nowhere. */
function moved(view: MatrixView, at: Place | null, down: number, across: number): Place | null {
  const sounds = view.rows.flatMap((row) => (row.kind === 'sound' ? row.sound.id : []));
  const briefs = view.columns.map(({ id }) => id);
  const step = <T,>(list: readonly T[], value: T | undefined, by: number) => {
    const i = value === undefined ? -1 : list.indexOf(value);
    if (i < 0) return list[0];
    return list[Math.max(0, Math.min(list.length - 1, i + by))];
  };
  const soundId = step(sounds, at?.soundId, down);
  const briefId = step(briefs, at?.briefId, across);
  return soundId === undefined || briefId === undefined ? null : { soundId, briefId };
}
