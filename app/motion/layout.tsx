import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css';
import type { Metadata, Viewport } from 'next';
import type { ReactNode } from 'react';
import { WholePage } from '../WholePage';
import './page.css';

export const metadata: Metadata = { title: 'Pumice: motion', description: 'This device moves the rig' };
export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

export default function MotionLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <WholePage />
        {children}
      </body>
    </html>
  );
}
