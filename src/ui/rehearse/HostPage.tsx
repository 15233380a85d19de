'use client';

import { useEffect, useRef, useState } from 'react';
import { hostById } from '@/core/host';
import { useTaking } from '../collect/intake/taking';
import { plural } from '../shared/format';
import { useKeys } from '../shared/keys';
import { useProject } from '../shared/project';
import { usePacks } from '../pack/layout/asking';
import { Checked } from './Checked';
import { Log } from './Log';
import { HostBar } from './HostBar';
import { broughtFiles, broughtPart, partsFor, type PackPart } from './packs';
import type { Rehearsal } from './rehearsing';
import { RehearseHead } from './RehearseHead';
import { scenes } from './scenes';
import { useAt, useRehearsal } from './useRehearsal';

/** One host, with the pack that its address names or the newest one, or with what was dropped. */
export function HostPage({
  hostId,
  packId,
  briefId,
}: {
  hostId: string;
  packId: number | null;
  briefId: string | null;
}) {
  const host = hostById(hostId);
  const rehearsal = useRehearsal(hostId, host.title);
  const { briefs } = useProject();
  const packs = usePacks();
  const parts = packs && partsFor(hostId, packs, briefs);
  const part =
    parts?.find(
      ({ pack, brief }) => pack.id === packId && (briefId === null || brief.id === briefId),
    ) ?? (packId === null ? parts?.[0] : undefined);
  return (
    <div className="px-6 py-4">
      <RehearseHead view={hostId} about={host.about} />
      {rehearsal && parts && (
        <Host
          key={hostId}
          hostId={hostId}
          rehearsal={rehearsal}
          parts={parts}
          part={part ?? null}
          isGone={packId !== null && !part}
        />
      )}
    </div>
  );
}

function Host({
  hostId,
  rehearsal,
  parts,
  part,
  isGone,
}: {
  hostId: string;
  rehearsal: Rehearsal;
  parts: readonly PackPart[];
  part: PackPart | null;
  isGone: boolean;
}) {
  const host = hostById(hostId);
  const state = useAt(rehearsal, (all) => all.state);
  const loaded = useAt(rehearsal, (all) => all.loaded);
  const problem = useAt(rehearsal, (all) => all.problem);
  const brought = useAt(rehearsal, (all) => all.brought);
  const changes = useAt(rehearsal, (all) => all.changes);
  const isAwake = useAt(rehearsal, (all) => all.isAwake);
  const [isDropped, setDropped] = useState(false);
  const [isSilent, setSilent] = useState(false);
  const [isWhy, setWhy] = useState(false);
  // The same part is another object whenever something of the project changes.
  const wanted = part && `${part.pack.id} ${part.brief.id}`;
  const named = useRef(part);
  named.current = part;
  useEffect(() => {
    if (wanted === null || !named.current) return;
    setDropped(false);
    void rehearsal.load(broughtPart(named.current));
  }, [rehearsal, wanted]);
  const take = (files: readonly { path: string; file: File }[]) => {
    const dropped = broughtFiles(files);
    if (!dropped) return;
    setDropped(true);
    void rehearsal.load(dropped);
  };
  useTaking(`Let go to bring it to the ${host.title.toLowerCase()}`, take);
  useKeys({
    p: () => rehearsal.setPhone(!rehearsal.store.getState().isPhoneOn),
    w: () => setWhy(!isWhy),
  });
  const own = isDropped ? null : part;
  const Scene = scenes[hostId]!.Scene;
  const hidesReasons = isSilent && !isWhy;
  // What is wrong stands in front of what one came for.
  const reasons = loaded && (
    <div className="my-4 grid items-start gap-5 xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      {hidesReasons ? (
        <Silence onWhy={() => setWhy(true)} />
      ) : (
        <Checked host={host} checks={loaded.checks} part={own} />
      )}
      {!hidesReasons && <Log lines={loaded.log} />}
    </div>
  );
  return (
    <>
      <HostBar
        hostId={hostId}
        rehearsal={rehearsal}
        parts={parts}
        part={own}
        dropped={isDropped ? (brought?.name ?? null) : null}
        onTake={take}
        isSilent={isSilent}
        onSilent={() => setSilent(!isSilent)}
      />
      {isGone && !isDropped && (
        <p role="alert" className="border-error bg-base-100 text-error mb-3 border px-4 py-2">
          That pack is not there, or not for this host. Choose another one.
        </p>
      )}
      {problem && (
        <p role="alert" className="border-error bg-base-100 text-error mb-3 border px-4 py-2">
          {problem.message} {problem.hint}
        </p>
      )}
      {isAwake === false && (
        <p role="status" className="border-warning bg-base-100 text-warning mb-3 border px-4 py-2">
          No sound comes out of this browser: there is no device for it, or it is not allowed yet.
          Everything is checked all the same.
        </p>
      )}
      {state === 'empty' && <Empty hostId={hostId} />}
      {loaded && (
        <div aria-busy={state === 'loading'}>
          <Verdict
            isHidden={hidesReasons}
            loaded={loaded}
            changes={changes}
            onWhy={() => setWhy(true)}
          />
          {!loaded.accepted && reasons}
          {loaded.scene !== null && (
            <Scene
              key={own ? own.brief.id : `dropped ${brought?.name}`}
              rehearsal={rehearsal}
              loaded={loaded}
              part={own}
            />
          )}
          {loaded.scene === null && <Nothing hostId={hostId} />}
          {loaded.accepted && reasons}
        </div>
      )}
    </>
  );
}

function Verdict({
  isHidden,
  loaded: { accepted, checks, sounds },
  changes,
  onWhy,
}: {
  isHidden: boolean;
  loaded: NonNullable<ReturnType<Rehearsal['store']['getState']>['loaded']>;
  changes: readonly string[];
  onWhy: () => void;
}) {
  if (isHidden) {
    return (
      <p className="text-soft mb-3">
        The host says nothing.{' '}
        <button className="link" onClick={onWhy}>
          Why is something missing? (W)
        </button>
      </p>
    );
  }
  const refused = checks.filter(({ verdict }) => verdict === 'refused');
  const [first] = refused;
  const warnings = checks.filter(({ verdict }) => verdict === 'warning').length;
  return (
    <div className="mb-3">
      {accepted ? (
        <p role="status" className="text-success font-semibold">
          Accepted: {plural(sounds.length, 'sound')}
          {warnings > 0
            ? `; look at ${plural(warnings, 'thing')} below.`
            : ', and every rule is met.'}
        </p>
      ) : (
        <p role="status" className="text-error font-semibold">
          Refused for {plural(refused.length, 'reason')}. {first?.file}: {first?.found}.
        </p>
      )}
      {changes.length > 0 && (
        <ul aria-label="What changed" className="text-soft">
          {changes.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
    </div>
  );
}

function Silence({ onWhy }: { onWhy: () => void }) {
  return (
    <section
      aria-label="What it checked"
      className="border-base-300 bg-base-100 border px-4 py-6 text-center"
    >
      <p>As with the real ones: what is refused never appears, or stays silent. Nobody says why.</p>
      <button className="btn btn-paper btn-sm mt-3" onClick={onWhy}>
        Show the reasons (W)
      </button>
    </section>
  );
}

/** The host with a pack of which it has taken nothing. */
function Nothing({ hostId }: { hostId: string }) {
  const { Thumb } = scenes[hostId]!;
  return (
    <div className="border-base-300 bg-base-100 max-w-xl border">
      <Thumb />
      <p className="text-soft px-6 py-3">It has taken nothing of this pack, and stays silent.</p>
    </div>
  );
}

function Empty({ hostId }: { hostId: string }) {
  const { Thumb, keys } = scenes[hostId]!;
  return (
    <div className="border-base-300 bg-base-100 mx-auto max-w-xl border">
      <Thumb />
      <div className="px-6 py-5">
        <p className="font-serif text-xl">No pack has been made for it yet.</p>
        <p className="text-soft mt-1">
          Make one above or in Pack, or drop a zip or a folder here: from anywhere, for nothing of
          it is kept. Keys: {keys}.
        </p>
      </div>
    </div>
  );
}
