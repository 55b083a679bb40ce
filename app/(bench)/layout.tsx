import { AntdRegistry } from '@ant-design/nextjs-registry';
import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css';
import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { WholePage } from '../WholePage';
import { services } from '../../src/server/services';
import { Shell } from '../../src/web/panels/shell/Shell';
import '../../src/web/play/controls.css';
import '../../src/web/theme/browserParts.css';
import '../../src/web/theme/forcedColors.css';
import './page.css';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Pumice', description: 'What a body does becomes MIDI' };

export default function BenchLayout({ children }: { children: ReactNode }) {
  const { desk, environment } = services();
  return (
    <html lang="en">
      <body>
        <WholePage />
        <AntdRegistry>
          <Shell first={desk.current} hubPort={environment.hubPort}>
            {children}
          </Shell>
        </AntdRegistry>
      </body>
    </html>
  );
}
