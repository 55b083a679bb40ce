import { create } from 'qrcode';
import { useMemo } from 'react';
import joinedDevices from './JoinedDevices.module.css';

/** Light modules around the code, as its standard asks (ISO/IEC 18004: four). */
const QUIET_ZONE = 4;

/** A text as a QR code: black on white whatever the theme, for that is what cameras read. */
export function QrCode({ text, label }: { text: string; label: string }) {
  const { size, path } = useMemo(() => {
    const { modules } = create(text, { errorCorrectionLevel: 'M' });
    const dark = [...modules.data].flatMap((on, i) => (on ? [`M${(i % modules.size) + QUIET_ZONE} ${Math.floor(i / modules.size) + QUIET_ZONE}h1v1h-1z`] : []));
    return { size: modules.size + 2 * QUIET_ZONE, path: dark.join('') };
  }, [text]);
  return (
    <svg className={joinedDevices.qr} viewBox={`0 0 ${size} ${size}`} shapeRendering="crispEdges" role="img" aria-label={label}>
      <rect width={size} height={size} fill="#fff" />
      <path d={path} fill="#000" />
    </svg>
  );
}
