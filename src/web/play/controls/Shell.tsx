import { forwardRef, type CSSProperties, type HTMLAttributes } from 'react';
import type { RigControl } from '../../../core/rig/document';
import { usePlaying } from '../PlayContext';

interface ShellProps extends HTMLAttributes<HTMLDivElement> {
  control: RigControl;
  /** Its kind for the eye, and more class names. */
  look: string;
}

/** The place of a control on the surface, in its colour, under its label. */
export const Shell = forwardRef<HTMLDivElement, ShellProps>(function Shell({ control, look, children, style, ...more }, ref) {
  const { scale, captions } = usePlaying();
  const { x, y, width, height } = control.frame;
  const caption = control.label || captions[control.id] || '';
  const place: CSSProperties = { left: x * scale, top: y * scale, width: width * scale, height: height * scale, ...style };
  return (
    <div ref={ref} className={`control ${look}`} style={place} data-control={control.id} data-colour={control.colour} aria-label={caption || control.kind} {...more}>
      {children}
      {caption && (
        <span className="label" data-says={control.label === '' ? 'message' : undefined}>
          {caption}
        </span>
      )}
    </div>
  );
});
