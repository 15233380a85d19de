'use client';

import type { ReactNode } from 'react';
import { Toaster } from 'sonner';
import type { Project } from '@/wire';
import { Strip } from '../strip/Strip';
import { DropAnywhere } from '../collect/intake/DropAnywhere';
import { Header } from './Header';
import { Keys } from './Keys';
import { Work } from './Work';

/** What stands around every station: where one is, what is being worked on, what is heard. */
export function Frame({ projects, children }: { projects: Project[]; children: ReactNode }) {
  return (
    <DropAnywhere>
      <div className="flex h-dvh min-w-80 flex-col">
        <Header projects={projects} />
        <Work />
        <main className="min-h-0 flex-1 overflow-y-auto outline-none" tabIndex={-1}>
          {children}
        </main>
        <Strip />
      </div>
      <Keys />
      <Toaster position="top-right" toastOptions={{ className: 'font-sans!' }} />
    </DropAnywhere>
  );
}
