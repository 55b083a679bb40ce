import type { RigDocument } from './document';
import type { Change, RigEdit } from './edit';

/** Fields that are called otherwise on the screens; the others go by their own name. */
const FIELD_WORDS: Record<string, string> = {
  on: 'on or off',
  onStage: 'on Stage',
  remark: 'notes',
  tempoBpm: 'tempo',
  followsClock: 'clock sets tempo',
  loop: 'again and again',
  lost: 'a lost point',
  part: 'what it plays',
  feelMs: 'feel',
  countInBars: 'count-in',
  startsBy: 'what starts it',
  taking: 'mouse or touchpad, taken over',
  osc: 'OSC address',
  returns: 'spring',
  period: 'full turn',
};

/** An edit in a few words, for the history and the undo button. `rig` gives names; what it no longer has goes by its id. */
export function editInWords(edit: RigEdit, rig: RigDocument): string {
  const fields = (set: object) => Object.keys(set).map((key) => FIELD_WORDS[key] ?? key).join(', ');
  const nameIn = (things: readonly { id: string; name: string }[], id: string) => things.find((thing) => thing.id === id)?.name ?? id;
  switch (edit.kind) {
    case 'setMapping':
      return `${nameIn(rig.mappings, edit.mapping)}: ${fields(edit.set)}`;
    case 'setVoiceMapping':
      return `${nameIn(rig.voiceMappings, edit.voiceMapping)}: ${fields(edit.set)}`;
    case 'setMember':
      return `${nameIn(rig.members, edit.member)}: ${fields(edit.set)}`;
    case 'setInput':
      return `${nameIn(rig.inputs, edit.input)}: ${fields(edit.set)}`;
    case 'setSignal':
      return `${nameIn(rig.signals, edit.signal)}: ${fields(edit.set)}`;
    case 'setRig':
      return `the rig: ${fields(edit.set)}`;
    case 'change':
      return changesInWords(edit.changes);
    default:
      return edit satisfies never;
  }
}

/** More than one of them, where that is not the name of their list. */
const PLURAL: Partial<Record<Change['list'], string>> = { derived: 'derived signals', streams: 'streams of voices', members: 'members of the ensemble', voiceMappings: 'voice mappings' };

const SINGULAR: Record<Change['list'], string> = {
  inputs: 'input',
  signals: 'signal',
  derived: 'derived signal',
  mappings: 'mapping',
  streams: 'stream of voices',
  members: 'member of the ensemble',
  voiceMappings: 'voice mapping',
  scales: 'scale',
  outputs: 'output',
  receivers: 'receiver',
  surfaces: 'surface',
  scenes: 'scene',
};

/** Several things of a list. */
export const listInWords = (list: Change['list']): string => PLURAL[list] ?? list;

function changesInWords(changes: readonly Change[]): string {
  const [first] = changes;
  if (changes.length === 1 && first) return `${SINGULAR[first.list]} ${first.to?.name ?? first.id}${first.to ? '' : ' removed'}`;
  const lists = [...new Set(changes.map(({ list }) => list))];
  return lists
    .map((list) => {
      const count = changes.filter((change) => change.list === list).length;
      return `${count} ${count === 1 ? SINGULAR[list] : listInWords(list)}`;
    })
    .join(', ');
}
