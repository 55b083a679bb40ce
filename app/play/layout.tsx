import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css';
import type { Metadata, Viewport } from 'next';
import type { ReactNode } from 'react';
import { WholePage } from '../WholePage';
import '../../src/web/play/controls.css';
import './page.css';

export const metadata: Metadata = { title: 'Pumice', description: 'A surface to play' };
export const viewport: Viewport = { width: 'device-width', initialScale: 1, viewportFit: 'cover' };

export default function PlayLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <WholePage />
        {children}
      </body>
    </html>
  );
}
