import '@yucca/kit/styles.css';
import './hosted.css';
import type { ReactNode } from 'react';

/** Hosted pages wear the kit's style sheet, with the studio's fonts. */
export default function HostedLayout({ children }: { children: ReactNode }) {
  return children;
}
