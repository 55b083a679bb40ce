import { AntdRegistry } from '@ant-design/nextjs-registry';
import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css';
import type { Metadata, Viewport } from 'next';
import type { ReactNode } from 'react';
import '../listen/listen.css';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Pumice: hands', description: 'Hands before a camera become notes and controllers' };
export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

export default function HandsLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <AntdRegistry>{children}</AntdRegistry>
      </body>
    </html>
  );
}
