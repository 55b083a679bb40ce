import { layoutChannels, managerOf, voiceChannels, type Layout } from '../receivers/layout';

/** The MPE zones of a receiver: whose bends and pedals count for which channels (MPE 1.0, section 2.2). */
export class Zones {
  private readonly managers = new Map<number, number>();
  private readonly byManager = new Map<number, number[]>();

  constructor(layout: Layout | undefined) {
    if (layout?.kind === 'zone') this.set(layout.zone, layout.members);
  }

  /** The configuration message: a zone with so many members, none switches it off. What another zone loses by that goes with it. */
  configured(channel: number, members: number): void {
    if (channel === 1 || channel === 16) this.set(channel === 1 ? 'lower' : 'upper', members);
  }

  /** The manager of a member's zone; null where a channel is a member of none. */
  managerOf(channel: number): number | null {
    return this.managers.get(channel) ?? null;
  }

  /** The members of a zone by its manager, none where it is no manager. */
  membersOf(manager: number): readonly number[] {
    return this.byManager.get(manager) ?? [];
  }

  /** The members of all zones. */
  get members(): readonly number[] {
    return [...this.managers.keys()];
  }

  private set(zone: 'lower' | 'upper', members: number): void {
    const layout = { kind: 'zone', zone, members } as const;
    const manager = managerOf(layout);
    for (const [channel, of] of [...this.managers]) if (of === manager) this.managers.delete(channel);
    this.byManager.delete(manager);
    if (members === 0) return;
    const taken = new Set(layoutChannels(layout));
    for (const [other, channels] of [...this.byManager]) this.byManager.set(other, channels.filter((channel) => !taken.has(channel)));
    for (const channel of voiceChannels(layout)) this.managers.set(channel, manager);
    this.byManager.set(manager, voiceChannels(layout));
  }
}
