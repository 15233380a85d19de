'use client';

import { usePathname, useRouter } from 'next/navigation';
import {
  createContext,
  useContext,
  useEffect,
  useEffectEvent,
  useRef,
  useState,
  type DragEvent,
  type ReactNode,
} from 'react';
import { useProject } from '../../shared/project';
import { expect } from '../arrived';
import { useConvert } from '../../convert/convert';
import { useAction } from '../../shared/useAction';
import { filesIn, filesOf } from './dropped';
import { bringIn, resumeAfterReload, type Brought } from './sending';
import { useTaker } from './taking';

interface Intake {
  /** Opens the system's dialog for choosing files. */
  chooseFiles: () => void;
  /** Opens the system's dialog for choosing a folder. */
  chooseFolder: () => void;
  /** Takes what was dropped, in place of the page. */
  take: (event: DragEvent) => void;
}

const IntakeContext = createContext<Intake>({
  chooseFiles: () => {},
  chooseFolder: () => {},
  take: () => {},
});

export function useIntake(): Intake {
  return useContext(IntakeContext);
}

/** Takes files and folders that are dropped or pasted anywhere on the page, at any station. */
export function DropAnywhere({ children }: { children: ReactNode }) {
  const { project, sounds } = useProject();
  const router = useRouter();
  const path = usePathname();
  const { run } = useAction();
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const depth = useRef(0);
  const [over, setOver] = useState(false);
  const invitation = useTaker(({ taker }) => taker?.invitation);

  const take = async (brought: readonly Brought[]) => {
    if (brought.length === 0) return;
    const { taker } = useTaker.getState();
    if (taker) return taker.take(brought);
    expect(sounds.reduce((most, { id }) => Math.max(most, id), 0));
    // Whoever converts stays where they are.
    const isConverting = useConvert.getState().isOpen;
    if (!path.endsWith('/collect') && !isConverting) router.push(`/p/${project.id}/collect`);
    await run(() => bringIn(project.id, brought));
  };
  const paste = useEffectEvent((event: ClipboardEvent) => {
    const isTyping = (event.target as HTMLElement).matches('input, textarea');
    if (isTyping || !event.clipboardData?.files.length) return;
    event.preventDefault();
    void filesOf(event.clipboardData).then(take);
  });
  useEffect(() => {
    void resumeAfterReload(project.id);
  }, [project.id]);
  useEffect(() => {
    const listen = (event: ClipboardEvent) => paste(event);
    document.addEventListener('paste', listen);
    return () => document.removeEventListener('paste', listen);
  }, []);

  const drop = (event: DragEvent) => {
    event.preventDefault();
    depth.current = 0;
    setOver(false);
    void filesOf(event.dataTransfer).then(take);
  };
  const isFiles = (event: DragEvent) => event.dataTransfer.types.includes('Files');
  const picker = (ref: typeof files, isFolder: boolean) => (
    <input
      ref={ref}
      type="file"
      multiple
      hidden
      data-testid={isFolder ? 'folder' : 'files'}
      {...(isFolder && { webkitdirectory: '' })}
      onChange={(event) => {
        void take(filesIn(event.target.files));
        event.target.value = '';
      }}
    />
  );
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
        if (isFiles(event) && !event.defaultPrevented) drop(event);
      }}
    >
      <IntakeContext.Provider
        value={{
          chooseFiles: () => files.current?.click(),
          chooseFolder: () => folder.current?.click(),
          take: drop,
        }}
      >
        {children}
      </IntakeContext.Provider>
      {picker(files, false)}
      {picker(folder, true)}
      {over && (
        <div className="bg-base-100/85 pointer-events-none fixed inset-0 z-50 grid place-items-center">
          <p className="font-serif text-4xl">
            {invitation ?? (
              <>
                Let go to bring them into <em>{project.name}</em>
              </>
            )}
          </p>
        </div>
      )}
    </div>
  );
}
