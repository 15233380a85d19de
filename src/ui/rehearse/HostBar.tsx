'use client';

import { Ear, EarOff, FolderOpen, Hammer, Smartphone } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useRef } from 'react';
import { hostById } from '@/core/host';
import { filesIn } from '../collect/intake/dropped';
import { shortWhen } from '../shared/format';
import { useProject } from '../shared/project';
import { useOutline } from '../pack/layout/asking';
import { useMending } from './mending';
import { hostAddress, type PackPart } from './packs';
import type { Rehearsal } from './rehearsing';
import { useAt } from './useRehearsal';

/** What is in the host, what else can be brought, and how it is heard. */
export function HostBar({
  hostId,
  rehearsal,
  parts,
  part,
  dropped,
  onTake,
  isSilent,
  onSilent,
}: {
  hostId: string;
  rehearsal: Rehearsal;
  parts: readonly PackPart[];
  part: PackPart | null;
  dropped: string | null;
  onTake: (files: readonly { path: string; file: File }[]) => void;
  isSilent: boolean;
  onSilent: () => void;
}) {
  const { project } = useProject();
  const router = useRouter();
  const isPhoneOn = useAt(rehearsal, (all) => all.isPhoneOn);
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const isTwo = parts.length !== new Set(parts.map(({ pack }) => pack.id)).size;
  const picker = (ref: typeof files, isFolder: boolean) => (
    <input
      ref={ref}
      type="file"
      hidden
      aria-label={isFolder ? 'A folder for the host' : 'A zip for the host'}
      {...(isFolder ? { webkitdirectory: '', multiple: true } : { accept: '.zip' })}
      onChange={(event) => {
        onTake(filesIn(event.target.files));
        event.target.value = '';
      }}
    />
  );
  return (
    <div className="mb-3 flex flex-wrap items-center gap-2">
      <select
        className="select select-sm w-72"
        aria-label="Pack in the host"
        value={part ? `${part.pack.id} ${part.brief.id}` : ''}
        onChange={({ target: { value } }) => {
          const next = parts.find(({ pack, brief }) => `${pack.id} ${brief.id}` === value);
          if (next) router.replace(hostAddress(project.id, hostId, next));
        }}
      >
        {!part && <option value="">{dropped ?? 'no pack yet'}</option>}
        {parts.map(({ pack, brief }) => (
          <option key={`${pack.id} ${brief.id}`} value={`${pack.id} ${brief.id}`}>
            pack {pack.id}, {shortWhen(pack.createdAt)}
            {isTwo || brief.id !== hostById(hostId).briefId ? `: ${brief.title}` : ''}
          </option>
        ))}
      </select>
      <button className="btn btn-paper btn-sm" onClick={() => files.current?.click()}>
        Bring a zip
      </button>
      <button className="btn btn-paper btn-sm" onClick={() => folder.current?.click()}>
        <FolderOpen size={14} /> Bring a folder
      </button>
      {picker(files, false)}
      {picker(folder, true)}
      <Again hostId={hostId} part={part} />
      <span className="ml-auto flex gap-2">
        <button
          className="btn btn-paper btn-sm aria-pressed:border-primary aria-pressed:text-primary"
          aria-pressed={isPhoneOn}
          title="Hear it through the loudspeaker of a phone (P)"
          onClick={() => rehearsal.setPhone(!isPhoneOn)}
        >
          <Smartphone size={14} /> Phone’s loudspeaker
        </button>
        <button
          className="btn btn-paper btn-sm aria-pressed:border-primary aria-pressed:text-primary"
          aria-pressed={isSilent}
          title="As the real ones: what is refused is just not there, and nobody says why"
          onClick={onSilent}
        >
          {isSilent ? <EarOff size={14} /> : <Ear size={14} />} Silent as the real one
        </button>
      </span>
    </div>
  );
}

/** Makes the pack again where the project has gone on since, and loads it. */
function Again({ hostId, part }: { hostId: string; part: PackPart | null }) {
  const { project } = useProject();
  const router = useRouter();
  const { mend, at } = useMending();
  const briefId = part?.brief.id ?? hostById(hostId).briefId;
  const outline = useOutline([briefId]);
  const reasons = outline?.troubles.filter(({ weight }) => weight === 'wrong').length ?? 0;
  if (at !== null) {
    return (
      <span role="status" className="text-soft text-sm">
        {at}
      </span>
    );
  }
  if (!outline || outline.files.length === 0) return null;
  const { newest } = outline;
  const isNew = newest?.isCurrent && part !== null && newest.id > part.pack.id;
  if (newest?.isCurrent && !isNew) return null;
  return (
    <button
      className="btn btn-primary btn-sm"
      disabled={reasons > 0}
      title={
        reasons > 0
          ? 'Something has to be settled first: see Layout'
          : 'Build what is out of date, pack it, and load it here; what plays goes over into it'
      }
      onClick={() => {
        if (isNew) router.replace(`/p/${project.id}/rehearse/${hostId}?pack=${newest.id}`);
        else void mend({ steps: [], briefId }, hostId);
      }}
    >
      <Hammer size={14} />{' '}
      {isNew ? 'Load the newer pack' : part ? 'Pack again and reload' : 'Make the pack'}
    </button>
  );
}
