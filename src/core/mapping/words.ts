import type { Smoothing } from '../rig/document';

export function smoothingInWords(smoothing: Smoothing | undefined): string {
  switch (smoothing?.kind) {
    case undefined:
      return 'direct';
    case 'onePole':
      return `smooth ${smoothing.timeConstantMs} ms`;
    case 'attackRelease':
      return `up ${smoothing.attackMs}, down ${smoothing.releaseMs} ms`;
    case 'oneEuro':
      return `adaptive ${smoothing.minCutoffHz} Hz`;
    case 'slew':
      return `at most ${smoothing.perS}/s`;
    default:
      return smoothing satisfies never;
  }
}
