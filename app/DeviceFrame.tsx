import { AntdRegistry } from '@ant-design/nextjs-registry';
import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css';
import type { ReactNode } from 'react';
import '../src/web/theme/browserParts.css';
import '../src/web/theme/deviceFrame.css';
import '../src/web/theme/forcedColors.css';
import { WholePage } from './WholePage';

/** The frame of a page that brings a microphone or a camera. */
export function DeviceFrame({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <WholePage />
        <AntdRegistry>{children}</AntdRegistry>
      </body>
    </html>
  );
}
