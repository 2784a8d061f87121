import '@fontsource-variable/bricolage-grotesque/wght.css';
import '@fontsource-variable/instrument-sans/wght.css';
import '@fontsource/ibm-plex-mono/latin-400.css';
import '@fontsource/ibm-plex-mono/latin-500.css';
import type { Metadata, Viewport } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { nonceOf } from '@/http/nonce';
import './globals.css';

export const metadata: Metadata = { title: { default: 'Yucca', template: '%s · Yucca' } };
export const viewport: Viewport = {
  themeColor: [
    { media: '(prefers-color-scheme: light)', color: '#fbf8f1' },
    { media: '(prefers-color-scheme: dark)', color: '#151a17' },
  ],
};

// Before the first paint, so that a chosen theme does not flash in.
const THEME = `try{var t=localStorage.getItem('yucca-theme');if(t)document.documentElement.dataset.theme=t}catch(e){}`;

/** Every page is made when it is asked for: each has a nonce of its own for its scripts (Content-Security-Policy). */
export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = nonceOf(await headers());
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: THEME }} />
      </head>
      <body>{children}</body>
    </html>
  );
}
