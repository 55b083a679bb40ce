import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css';
import type { Metadata, Viewport } from 'next';
import type { ReactNode } from 'react';
import { WholePage } from '../WholePage';
import './page.css';

export const metadata: Metadata = { title: 'Join Pumice', description: 'This device becomes part of the rig' };
export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

export default function JoinLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <WholePage />
        {children}
      </body>
    </html>
  );
}
