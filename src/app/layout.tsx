import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import type { ReactNode } from 'react';
import { THEME_COOKIE } from '@/ui/frame/theme';
import { displayFont, textFont } from './fonts';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Bijou', template: '%s · Bijou' },
  description: 'Sounds in exactly the form that each destination takes.',
};

export default async function RootLayout({ children }: { children: ReactNode }) {
  const theme = (await cookies()).get(THEME_COOKIE)?.value;
  const known = theme === 'daylight' || theme === 'lamplight' ? theme : undefined;
  return (
    <html lang="en" data-theme={known} className={`${textFont.variable} ${displayFont.variable}`}>
      <body className="bg-base-200 text-base-content min-h-dvh font-sans text-sm">{children}</body>
    </html>
  );
}
