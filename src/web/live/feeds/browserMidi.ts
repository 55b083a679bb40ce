import type { FeedLine } from './feedLine';
import type { PortLender } from './portLender';

/** What a browser brings, by name. */
export interface BrowserPorts {
  inputs: string[];
  outputs: string[];
}

/** The MIDI ports of this browser: its inputs become inputs here, its outputs are lent. Returns one sentence where it cannot or may not have them. */
export class BrowserMidi {
  private access: MIDIAccess | null = null;
  private readonly inputs = new Map<string, MIDIInput>();

  constructor(
    private readonly line: FeedLine,
    private readonly lender: PortLender,
    private readonly onPorts: (ports: BrowserPorts) => void,
  ) {}

  async start(): Promise<string | null> {
    if (!window.isSecureContext) return 'The browser gives MIDI to secure pages only: open Pumice on this computer as localhost, or by its https address.';
    if (!navigator.requestMIDIAccess) return 'This browser knows no MIDI: try one that does, or use the ports of the computer that runs Pumice.';
    try {
      // Some allow everything but SysEx; without it the rest is better than nothing.
      this.access = await navigator.requestMIDIAccess({ sysex: true }).catch(() => navigator.requestMIDIAccess());
    } catch {
      return 'The browser was not allowed to use MIDI: allow it beside the address of this page, then try again.';
    }
    this.access.onstatechange = () => this.look();
    // A page that goes takes the way to its ports along.
    window.addEventListener('pagehide', this.leave);
    this.look();
    return null;
  }

  stop(): void {
    if (this.access) this.access.onstatechange = null;
    for (const [id, input] of this.inputs) this.close(id, input);
    window.removeEventListener('pagehide', this.leave);
    this.lender.close();
  }

  private readonly leave = () => this.lender.letGo();

  private look(): void {
    const here = new Set<string>();
    this.access!.inputs.forEach((input) => {
      if (input.state !== 'connected') return;
      here.add(input.id);
      if (this.inputs.has(input.id)) return;
      const name = (input.name ?? 'MIDI').slice(0, 80) || 'MIDI';
      this.inputs.set(input.id, input);
      this.line.add(input.id, { kind: 'midi', report: `${input.manufacturer ?? ''} ${name}`.trim().slice(0, 200), name }, []);
      input.onmidimessage = ({ data, timeStamp }) => {
        if (data) this.line.sendMidi(input.id, data, performance.timeOrigin + timeStamp);
      };
    });
    for (const [id, input] of this.inputs) if (!here.has(id)) this.close(id, input);
    const outputs: MIDIOutput[] = [];
    this.access!.outputs.forEach((output) => output.state === 'connected' && outputs.push(output));
    this.lender.lend(outputs);
    this.onPorts({ inputs: namesOf(this.inputs.values()), outputs: namesOf(outputs) });
  }

  private close(id: string, input: MIDIInput): void {
    input.onmidimessage = null;
    this.inputs.delete(id);
    this.line.remove(id);
  }
}

const namesOf = (ports: Iterable<MIDIPort>) => Array.from(ports, ({ name }) => name ?? 'MIDI');
