import { REPORT_LENGTH } from '../inputs/kinds/kind';

/**
 * What a MIDI port says of itself, without what changes from socket to socket and from day to day: Linux ends its names with the
 * numbers of client and port (`Keys:Keys MIDI 1 20:0`), Windows with the place in the list (`Keys 3`). As RtMidi gives them.
 */
export function portReport(name: string, platform: string): string {
  const changing = platform === 'win32' ? / \d+$/ : platform === 'linux' ? / \d+:\d+$/ : null;
  const report = (changing ? name.replace(changing, '') : name).slice(0, REPORT_LENGTH);
  return report.trim() === '' ? 'MIDI port' : report;
}

/** A name for people: some systems put the program or device before its port, which often says the same again. */
export function shortName(report: string): string {
  const at = report.indexOf(':');
  const [feed, port] = [report.slice(0, at), report.slice(at + 1)];
  if (at < 1 || port.trim() === '') return report;
  return port.startsWith(feed) ? port : feed;
}

/** The same port among several: what it says of itself, and its place among those that say the same, from 1. */
export interface PortIdentity {
  report: string;
  slot: number;
}

/** Which ports a list of names is of, in its order. */
export function identify(names: readonly string[], platform: string): PortIdentity[] {
  const counts = new Map<string, number>();
  return names.map((name) => {
    const report = portReport(name, platform);
    const slot = (counts.get(report) ?? 0) + 1;
    counts.set(report, slot);
    return { report, slot };
  });
}

export const samePort = (a: PortIdentity, b: PortIdentity): boolean => a.report === b.report && a.slot === b.slot;
