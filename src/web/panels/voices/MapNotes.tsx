import { Button } from 'antd';
import { freshVoiceMapping } from '../../../core/voices/freshVoiceMapping';
import { findStream } from '../../../core/rig/find';
import { firstTaking } from '../../../core/rig/outputs';
import { streamGlides } from '../../../core/voices/span';
import { EditMenu } from '../shared/edit';
import { useEdit, useRig } from '../shell/useRig';

/** Maps a stream of voices: the keys of a surface, a pitch field, the notes of a MIDI device. */
export function MapNotes({ onDone }: { onDone: (voiceMapping: string) => void }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const output = firstTaking(rig, 'midi') ?? rig.outputs[0];
  const map = (id: string) => {
    const stream = [...rig.streams, ...rig.members].find((candidate) => candidate.id === id);
    if (!stream || !output) return;
    const sibling = rig.voiceMappings.find((mapping) => mapping.stream === id);
    const { change, id: made } = freshVoiceMapping(rig, stream, sibling?.output ?? output.id, streamGlides(rig, id));
    edit({ kind: 'change', changes: [change] });
    onDone(made);
  };
  const items = [...rig.streams.filter(({ hidden }) => !hidden), ...rig.members].map(({ id, name }) => ({ key: id, label: `${findStream(rig, id)!.from} · ${name}`, onClick: () => map(id) }));
  return (
    <EditMenu disabled={!output || items.length === 0} items={items}>
      <Button>Map notes</Button>
    </EditMenu>
  );
}
