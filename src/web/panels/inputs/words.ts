import type { DeviceState } from '../../../protocol/live';

/** How long ago something was, as short as can be. */
export function agoInWords(msAgo: number | null): string {
  if (msAgo === null) return 'never';
  const seconds = Math.round(msAgo / 1000);
  if (seconds < 60) return `${seconds} s ago`;
  return seconds < 3600 ? `${Math.floor(seconds / 60)} min ago` : `${Math.floor(seconds / 3600)} h ago`;
}

/** How a device is doing, in words. */
export function stateInWords(device: DeviceState | undefined): string {
  if (!device) return 'not here';
  switch (device.state) {
    case 'live':
      return `live, ${device.rateHz.toFixed(device.rateHz < 10 ? 1 : 0)} messages/s${device.remark === null ? '' : ` · ${device.remark}`}`;
    case 'silent':
      return device.lastHeardMsAgo === null ? 'here, nothing heard yet' : `silent, last heard ${agoInWords(device.lastHeardMsAgo)}`;
    case 'gone':
      return `gone, last heard ${agoInWords(device.lastHeardMsAgo)}`;
    default:
      return device.state satisfies never;
  }
}
