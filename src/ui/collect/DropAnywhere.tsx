'use client';

import { usePathname, useRouter } from 'next/navigation';
import { createContext, useContext, useRef, useState, type DragEvent, type ReactNode } from 'react';
import { useProject, useRefresh } from '../shared/project';
import { send } from './uploads';

interface Intake {
  /** Opens the system's dialog for choosing files. */
  choose: () => void;
  /** Sends a file again, as the samples that `raw` describes. */
  sendRaw: (file: File, raw: string) => void;
}

const IntakeContext = createContext<Intake>({ choose: () => {}, sendRaw: () => {} });

export function useIntake(): Intake {
  return useContext(IntakeContext);
}

/** Takes files that are dropped anywhere on the page, at any station. */
export function DropAnywhere({ mostBytes, children }: { mostBytes: number; children: ReactNode }) {
  const { project } = useProject();
  const refresh = useRefresh();
  const router = useRouter();
  const path = usePathname();
  const input = useRef<HTMLInputElement>(null);
  const depth = useRef(0);
  const [over, setOver] = useState(false);
  const take = (files: readonly File[]) => {
    if (files.length === 0) return;
    send(files, project.id, mostBytes, () => void refresh());
    if (!path.endsWith('/collect')) router.push(`/p/${project.id}/collect`);
  };
  const isFiles = (event: DragEvent) => event.dataTransfer.types.includes('Files');
  return (
    <div
      onDragEnter={(event) => {
        if (!isFiles(event)) return;
        depth.current++;
        setOver(true);
      }}
      onDragOver={(event) => {
        if (isFiles(event)) event.preventDefault();
      }}
      onDragLeave={(event) => {
        // Entering a child comes before leaving its parent.
        if (isFiles(event) && --depth.current <= 0) setOver(false);
      }}
      onDrop={(event) => {
        if (!isFiles(event)) return;
        event.preventDefault();
        depth.current = 0;
        setOver(false);
        take([...event.dataTransfer.files]);
      }}
    >
      <IntakeContext.Provider
        value={{
          choose: () => input.current?.click(),
          sendRaw: (file, raw) => send([file], project.id, mostBytes, () => void refresh(), raw),
        }}
      >
        {children}
      </IntakeContext.Provider>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        data-testid="files"
        onChange={(event) => {
          take([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
      {over && (
        <div className="bg-base-100/85 pointer-events-none fixed inset-0 z-50 grid place-items-center">
          <p className="font-serif text-4xl">
            Let go to bring them into <em>{project.name}</em>
          </p>
        </div>
      )}
    </div>
  );
}
