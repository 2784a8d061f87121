import '@yucca/kit/styles.css';
import Link from 'next/link';
import type { ReactNode } from 'react';

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <nav>
          <Link href="/">All plants</Link> <Link href="/?q=fern">Ferns</Link>
        </nav>
        {children}
      </body>
    </html>
  );
}
