'use client';

import { useEffect, type CSSProperties, type ReactNode } from 'react';
import { Toaster } from 'sonner';
import type { Project } from '@/wire';
import { Strip } from '../strip/Strip';
import { DropAnywhere } from '../collect/intake/DropAnywhere';
import { ConvertSheet } from '../convert/ConvertSheet';
import { keepFocus } from '../shared/focus';
import { Header } from './Header';
import { Keys } from './Keys';
import { Loading, WhenLoaded } from './Loading';
import { Work } from './Work';

/** Messages are slips of the same paper as the page. */
const paper = {
  '--normal-bg': 'var(--color-base-100)',
  '--normal-border': 'var(--color-base-300)',
  '--normal-text': 'var(--color-base-content)',
  '--border-radius': 'var(--radius-box)',
} as CSSProperties;

/** What stands around every station: where one is, what is being worked on, what is heard. */
export function Frame({ projects, children }: { projects: Project[]; children: ReactNode }) {
  useEffect(keepFocus, []);
  return (
    <DropAnywhere>
      <div className="flex h-dvh min-w-80 flex-col print:block print:h-auto">
        <div className="print:hidden">
          <Header projects={projects} />
          <Work />
          <Loading />
        </div>
        <main
          className="min-h-0 flex-1 overflow-y-auto outline-none print:overflow-visible"
          tabIndex={-1}
        >
          <WhenLoaded>{children}</WhenLoaded>
        </main>
        <div className="print:hidden">
          <Strip />
        </div>
      </div>
      <Keys />
      <ConvertSheet />
      {/* Over the list, where no button is. */}
      <Toaster
        position="bottom-right"
        offset={{ bottom: '8.5rem' }}
        mobileOffset={{ bottom: '9rem' }}
        style={paper}
        toastOptions={{ className: 'font-sans!', duration: 5_000 }}
      />
    </DropAnywhere>
  );
}
