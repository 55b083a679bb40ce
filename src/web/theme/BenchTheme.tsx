'use client';

import { App, ConfigProvider, theme, type ThemeConfig } from 'antd';
import { useEffect, type ReactNode } from 'react';
import { useMedia } from '../useMedia';
import { cssVariables, FONT, MONO, paletteOf } from './tokens';

/** Puts the palette of the Bench or the Stage under everything: our own styles and Ant Design's. */
export function BenchTheme({ stage, narrow = false, className, children }: { stage: boolean; narrow?: boolean; className?: string | undefined; children: ReactNode }) {
  const still = useMedia('(prefers-reduced-motion: reduce)');
  // The whole page, for what the browser draws by itself (browserParts.css).
  useEffect(() => void document.documentElement.toggleAttribute('data-stage', stage), [stage]);
  return (
    <ConfigProvider theme={antTheme(stage, still)}>
      <App component={false}>
        <div className={className} style={cssVariables(paletteOf(stage))} data-mode={stage ? 'stage' : 'bench'} data-narrow={narrow}>
          {children}
        </div>
      </App>
    </ConfigProvider>
  );
}

/** `still`: nothing folds or slides, for whoever asked the system for that. */
function antTheme(stage: boolean, still: boolean): ThemeConfig {
  const palette = paletteOf(stage);
  return {
    algorithm: stage ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      colorPrimary: palette.accent,
      colorInfo: palette.accent,
      colorError: palette.trouble,
      colorWarning: palette.alive,
      colorText: palette.ink,
      colorTextSecondary: palette.quiet,
      colorTextDescription: palette.quiet,
      colorTextPlaceholder: palette.quiet,
      colorBgBase: palette.ground,
      colorBgContainer: palette.raised,
      colorBgElevated: palette.raised,
      colorBgLayout: palette.ground,
      colorBorder: palette.hairline,
      colorBorderSecondary: palette.hairline,
      colorTextLightSolid: palette.onAccent,
      fontFamily: FONT,
      fontFamilyCode: MONO,
      fontSize: 15,
      borderRadius: 4,
      controlHeight: 36,
      wireframe: false,
      motion: !still,
    },
    components: { Button: { primaryColor: palette.onAccent }, InputNumber: { fontFamily: MONO }, Table: { headerBg: palette.sunken } },
  };
}
