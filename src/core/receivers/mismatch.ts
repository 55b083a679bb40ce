import { claimsOfMapping, claimsOfVoices, type Claim } from '../ledger/claims';
import type { Held } from '../messages/kind';
import { intervalsOf } from '../ensemble/theory/qualities';
import { outputKind, type RigOutput } from '../outputs/kinds';
import type { RigDocument, RigMapping, RigReceiver } from '../rig/document';
import type { RigVoiceMapping } from '../rig/voices';
import { channelsOf, isSpread, placesOf } from '../voices/layout';
import { layoutInWords as voicesInWords } from '../voices/layoutWords';
import { layoutChannels, layoutInWords } from './layout';
import { counted } from '../units/counted';

export const UNDERSTANDINGS = ['notes', 'controllers', 'parameters', 'bend', 'pressure', 'polyPressure', 'programs'] as const;
/** A kind of message that a receiver may not understand. */
export type Understanding = (typeof UNDERSTANDINGS)[number];

export const UNDERSTANDING_WORDS: Readonly<Record<Understanding, string>> = {
  notes: 'notes',
  controllers: 'controllers',
  parameters: 'parameters (RPN, NRPN)',
  bend: 'bend',
  pressure: 'pressure',
  polyPressure: 'poly pressure',
  programs: 'programs',
};

const OF_HELD: Partial<Record<Held['kind'], Understanding>> = { note: 'notes', controller: 'controllers', parameter: 'parameters', bend: 'bend', pressure: 'pressure', polyPressure: 'polyPressure', program: 'programs' };

/** Something that leaves and cannot sound right over there. */
export interface Mismatch {
  output: string;
  text: string;
}

/** What of a rig its receivers will not play as it is meant, in sentences; each names the mappings that it is about. */
export function mismatches(rig: RigDocument): Mismatch[] {
  return [...rig.outputs.flatMap((output) => ofOutput(rig, output)), ...shared(rig)];
}

function ofOutput(rig: RigDocument, output: RigOutput): Mismatch[] {
  const receiver = rig.receivers.find(({ id }) => id === output.receiver);
  if (!receiver || outputKind(output.kind).takes !== 'midi') return [];
  const mappings = rig.mappings.filter((mapping) => mapping.on && mapping.output === output.id);
  const voices = rig.voiceMappings.filter((mapping) => mapping.on && mapping.output === output.id);
  const sent: Sent[] = [...mappings.map((mapping) => ({ name: mapping.name, claims: claimsOfMapping(mapping) })), ...voices.map((mapping) => ({ name: mapping.name, claims: claimsSaid(mapping) }))];
  return [bendRange(receiver, mappings, voices), ...unheard(receiver, sent), ...notUnderstood(receiver, sent), ...hardWired(receiver, sent), ...tooMany(receiver, mappings), ...tooManyOfMembers(rig, receiver, voices), ...otherVoices(receiver, voices)].flatMap((text) => (text === null ? [] : [{ output: output.id, text }]));
}

/** What a mapping or voice mapping lays hold on, and its name. */
interface Sent {
  name: string;
  claims: Pick<Claim, 'kind' | 'number' | 'channel'>[];
}

/** The messages that voices leave as, on each of their channels. */
function claimsSaid(mapping: RigVoiceMapping): Sent['claims'] {
  if (!isSpread(mapping.layout)) return claimsOfVoices(mapping);
  return channelsOf(mapping.layout).flatMap((channel) => claimsOfVoices({ ...mapping, layout: { kind: 'poly', channel, voices: 1, steal: 'oldest' } }));
}

/** A bend of one semitone sounds as 100 cents times the range there over the range here. */
function bendRange({ bendRangeSemitones: here, bendThereSemitones: there }: RigReceiver, mappings: readonly RigMapping[], voices: readonly RigVoiceMapping[]): string | null {
  const bends = mappings.some(({ message }) => message.kind === 'pitchBend' && message.unit === 'semitones') || voices.some(({ pitch }) => pitch.bends);
  if (there === undefined || there === here || !bends) return null;
  const cents = here === 0 ? null : (100 * there) / here;
  return `bend range is ${here} here and ${there} there: ${cents === null ? 'nothing bends' : `a semitone will sound as ${cents < 10 ? Number(cents.toFixed(1)) : Math.round(cents)} cents`}`;
}

/** By channel: what is sent where the receiver does not listen. */
function unheard({ channels }: RigReceiver, sent: readonly Sent[]): string[] {
  if (!channels) return [];
  const byChannel = new Map<number, string[]>();
  for (const { name, claims } of sent) {
    for (const channel of new Set(claims.map((claim) => claim.channel))) if (channel > 0 && !channels.includes(channel)) byChannel.set(channel, [...(byChannel.get(channel) ?? []), name]);
  }
  return [...byChannel].sort(([a], [b]) => a - b).map(([channel, names]) => `channel ${channel} is not listened to there: ${listed(names)}`);
}

function notUnderstood({ lacks = [] }: RigReceiver, sent: readonly Sent[]): string[] {
  return lacks.flatMap((lack) => {
    const names = sent.filter(({ claims }) => claims.some(({ kind }) => OF_HELD[kind] === lack)).map(({ name }) => name);
    return names.length === 0 ? [] : [`${UNDERSTANDING_WORDS[lack]} ${lack === 'notes' || lack === 'controllers' || lack === 'parameters' || lack === 'programs' ? 'are' : 'is'} not understood there: ${listed(names)}`];
  });
}

function hardWired({ hardWired: wired = [] }: RigReceiver, sent: readonly Sent[]): string[] {
  return wired.flatMap(({ controller, does }) => {
    const names = sent.filter(({ claims }) => claims.some(({ kind, number }) => kind === 'controller' && number === controller)).map(({ name }) => name);
    return names.length === 0 ? [] : [`controller ${controller} is ${does} there, hard-wired: ${listed(names)}`];
  });
}

/** A chord of more notes than sound at once there loses some of them. */
function tooMany({ voices }: RigReceiver, mappings: readonly RigMapping[]): string[] {
  if (voices === undefined) return [];
  return mappings.flatMap(({ name, message }) => (message.kind === 'note' && (message.chord?.length ?? 1) > voices ? [`a chord of ${message.chord!.length} notes for ${counted(voices, 'voice')} there: ${name}`] : []));
}

/** Members of the ensemble that let more sound at once than sounds there. */
function tooManyOfMembers(rig: RigDocument, { voices: most }: RigReceiver, voices: readonly RigVoiceMapping[]): string[] {
  if (most === undefined) return [];
  return voices.flatMap(({ stream, name }) => {
    const { part } = rig.members.find(({ id }) => id === stream) ?? {};
    const together = part?.kind === 'strum' ? (part.tuning?.length ?? part.strings) : part?.kind === 'chord' ? (part.quality ? intervalsOf(part.quality).length : part.tones) : 0;
    return together > most ? [`${together} ${part!.kind === 'strum' ? 'strings' : 'tones'} for ${counted(most, 'voice')} there: the newest cut off the others: ${name}`] : [];
  });
}

/** Voices that go elsewhere than the receiver has its own, or are more than sound there. */
function otherVoices({ layout: there, voices: most }: RigReceiver, voices: readonly RigVoiceMapping[]): string[] {
  return voices.flatMap(({ name, layout }) => {
    const elsewhere = there !== undefined && JSON.stringify(channelsOf(layout)) !== JSON.stringify(layoutChannels(there)) && !(layout.kind === 'mono' && layoutChannels(there).includes(layout.channel));
    const many = placesOf(layout).length;
    return [
      ...(elsewhere ? [`voices go to ${voicesInWords(layout)} here, and there they are ${layoutInWords({ layout: there })}: ${name}`] : []),
      ...(most !== undefined && many > most ? [`${many} voices here and ${most} there: the others are not heard: ${name}`] : []),
    ];
  });
}

/** Two receivers that listen to one channel of one port both play what is meant for one of them. */
function shared(rig: RigDocument): Mismatch[] {
  const found: Mismatch[] = [];
  rig.outputs.forEach((output, i) => {
    for (const other of rig.outputs.slice(i + 1)) {
      if (output.receiver === other.receiver || !samePlace(output, other)) continue;
      const [a, b] = [output, other].map(({ receiver }) => rig.receivers.find(({ id }) => id === receiver));
      const both = heardOn(a).filter((channel) => heardOn(b).includes(channel));
      if (!a || !b || both.length === 0) continue;
      const which = both.length === ALL.length ? 'every channel' : `channel ${both.join(', ')}`;
      for (const { id } of [output, other]) found.push({ output: id, text: `two receivers listen on ${which} of this port: ${a.name} and ${b.name}` });
    }
  });
  return found;
}

const heardOn = (receiver: RigReceiver | undefined) => receiver?.channels ?? (receiver?.layout ? layoutChannels(receiver.layout) : ALL);
const ALL = Array.from({ length: 16 }, (_, i) => i + 1);

function samePlace(a: RigOutput, b: RigOutput): boolean {
  if ((a.kind === 'port' || a.kind === 'page') && a.kind === b.kind) return a.device.report === b.device.report && a.device.slot === b.device.slot;
  if (a.kind === 'network' && b.kind === 'network') return a.session === b.session && a.peer === b.peer;
  return a.kind === 'virtual' && b.kind === 'virtual' && a.port === b.port;
}

const NAMED = 3;
const listed = (names: readonly string[]) => `${names.slice(0, NAMED).join(', ')}${names.length > NAMED ? ` and ${names.length - NAMED} more` : ''}`;
