'use client';

import { useQuery } from '@tanstack/react-query';
import { Copy, Pencil, Trash2, Undo2 } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Project, RemovedProject } from '@/wire';
import { call } from '../shared/api';
import { Popover } from '../shared/Popover';
import { useProject } from '../shared/project';
import { selectAll } from '../shared/selectAll';
import { Tool } from '../shared/Tool';
import { useAction } from '../shared/useAction';

const MOST_LETTERS = 80;

/** The project's name, and behind it everything that is done with projects as a whole. */
export function ProjectMenu({ projects }: { projects: readonly Project[] }) {
  const { project } = useProject();
  return (
    <Popover
      label={`Project: ${project.name}`}
      title={`${project.name}: change, begin, rename, copy or delete a project`}
      className="flex max-w-full cursor-pointer items-baseline font-serif text-2xl leading-7 font-medium"
      face={
        <>
          <span className="truncate">{project.name}</span>
          <span aria-hidden className="text-soft ml-1.5 text-sm">
            ▾
          </span>
        </>
      }
    >
      {(close) => <Menu projects={projects} onDone={close} />}
    </Popover>
  );
}

function Menu({ projects, onDone }: { projects: readonly Project[]; onDone: () => void }) {
  const { project } = useProject();
  const acts = useProjectActs(projects, onDone);
  const { data: removed = [] } = useQuery({
    queryKey: ['removed projects'],
    queryFn: () => call<RemovedProject[]>('projects/removed'),
    staleTime: 0,
  });
  const [isRenaming, setRenaming] = useState(false);
  return (
    <div className="w-80">
      <ul className="max-h-64 overflow-y-auto">
        {projects.map(({ id, name }) => (
          <li key={id}>
            <Link
              className="hover:bg-base-200 block truncate rounded px-2 py-1.5"
              href={`/p/${id}/collect`}
              title={name}
              aria-current={id === project.id ? 'true' : undefined}
              onClick={onDone}
            >
              {name}
              {id === project.id && <span className="text-soft"> (open now)</span>}
            </Link>
          </li>
        ))}
      </ul>
      <div className="border-base-300 mt-2 border-t pt-2">
        {isRenaming ? (
          <NameForm
            label="New name of this project"
            start={project.name}
            button="Rename"
            onName={acts.rename}
          />
        ) : (
          <div className="flex gap-1">
            <button className="btn btn-ghost btn-xs" onClick={() => setRenaming(true)}>
              <Pencil size={13} aria-hidden /> Rename
            </button>
            <button className="btn btn-ghost btn-xs" onClick={acts.copy}>
              <Copy size={13} aria-hidden /> Copy
            </button>
            <button className="btn btn-ghost btn-xs" onClick={acts.remove}>
              <Trash2 size={13} aria-hidden /> Delete
            </button>
          </div>
        )}
      </div>
      <div className="border-base-300 mt-2 border-t pt-2">
        <NameForm label="Name of a new project" start="" button="Begin" onName={acts.begin} />
      </div>
      {removed.length > 0 && (
        <section aria-label="Deleted projects" className="border-base-300 mt-2 border-t pt-2">
          <h3 className="text-soft px-2 text-xs font-semibold">Deleted, can be brought back</h3>
          <ul className="max-h-40 overflow-y-auto">
            {removed.map((one) => (
              <li key={one.id} className="flex items-center gap-1 pl-2">
                <span className="min-w-0 flex-1 truncate" title={one.name}>
                  {one.name}
                </span>
                <Tool isSmall label={`Bring ${one.name} back`} onClick={() => acts.bringBack(one)}>
                  <Undo2 size={14} />
                </Tool>
                <Tool
                  isSmall
                  label={`Delete ${one.name} for good, with its files`}
                  onClick={() => acts.letGo(one)}
                >
                  <Trash2 size={14} />
                </Tool>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

/** Everything that is done with a project as a whole; what can be taken back says how. */
function useProjectActs(projects: readonly Project[], onDone: () => void) {
  const { project } = useProject();
  const router = useRouter();
  const { run } = useAction();
  const goTo = ({ id }: Pick<Project, 'id'>) => router.push(`/p/${id}/collect`);
  const undo = (back: () => Promise<unknown>) => ({
    action: { label: 'Undo', onClick: () => void run(back).then(() => router.refresh()) },
  });
  const act = (work: () => Promise<unknown>) => {
    onDone();
    void run(work).then(() => router.refresh());
  };
  const rename = (name: string) => call(`projects/${project.id}`, 'PATCH', { name });
  return {
    begin: (name: string) =>
      act(async () => goTo(await call<Project>('projects', 'POST', { name }))),
    rename: (name: string) =>
      act(async () => {
        await rename(name);
        toast(
          `“${project.name}” is called “${name}” now.`,
          undo(() => rename(project.name)),
        );
      }),
    copy: () =>
      act(async () => {
        const made = await call<Project>(`projects/${project.id}/copy`, 'POST');
        goTo(made);
        toast(`“${made.name}” is open now.`);
      }),
    remove: () =>
      act(async () => {
        const next = projects.find(({ id }) => id !== project.id);
        await call(`projects/${project.id}`, 'DELETE');
        const back = async () => {
          await call(`projects/${project.id}/back`, 'POST');
          goTo(project);
        };
        toast(`“${project.name}” was deleted.`, undo(back));
        if (next) goTo(next);
        else router.push('/');
      }),
    bringBack: (one: RemovedProject) =>
      act(async () => {
        await call(`projects/${one.id}/back`, 'POST');
        goTo(one);
      }),
    letGo: (one: RemovedProject) =>
      act(async () => {
        await call(`projects/${one.id}?for=good`, 'DELETE');
        toast(`“${one.name}” is gone, with its files.`);
      }),
  };
}

function NameForm({
  label,
  start,
  button,
  onName,
}: {
  label: string;
  start: string;
  button: string;
  onName: (name: string) => void;
}) {
  const [name, setName] = useState(start);
  const typed = name.trim();
  return (
    <form
      className="flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (typed) onName(typed);
      }}
    >
      <input
        className="input input-sm min-w-0 flex-1"
        maxLength={MOST_LETTERS}
        placeholder={label}
        aria-label={label}
        value={name}
        // Only the one that has just been asked for.
        autoFocus={start !== ''}
        {...selectAll}
        onChange={(event) => setName(event.target.value)}
      />
      <button className="btn btn-paper btn-sm" disabled={!typed || typed === start}>
        {button}
      </button>
    </form>
  );
}
