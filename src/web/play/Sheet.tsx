import type { CSSProperties } from 'react';
import type { RigControl, RigSurface } from '../../core/rig/document';
import { Control } from './controls/Control';
import { PlayContext, UNITS_PER_EM, type Playing } from './PlayContext';

interface SheetProps {
  playing: Playing;
  controls: readonly RigControl[];
  palette: RigSurface['palette'];
  width: number;
  height: number;
  style?: CSSProperties;
}

/** Controls in their places, at a scale. */
export function Sheet({ playing, controls, palette = [], width, height, style }: SheetProps) {
  const { scale } = playing;
  const colours = Object.fromEntries(palette.map((colour, i) => [`--colour-${i}`, colour]));
  return (
    <div className="surface" style={{ ...colours, ...style, width: width * scale, height: height * scale, fontSize: UNITS_PER_EM * scale }}>
      <PlayContext value={playing}>
        {controls.map((control) => (
          <Control key={control.id} control={control} />
        ))}
      </PlayContext>
    </div>
  );
}
