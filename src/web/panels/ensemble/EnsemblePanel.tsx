'use client';

import { Button, Segmented } from 'antd';
import { useMemo, useState } from 'react';
import { freshMemberOf } from '../../../core/ensemble/addMember';
import { blocksOf } from '../../../core/ensemble/blocks';
import { MEMBERS, PART_KINDS } from '../../../core/ensemble/kinds';
import { routingOf } from '../../../core/ensemble/routing';
import { addHandNotes, handsOf } from '../../../core/hands/handNotes';
import type { Side } from '../../../core/hands/landmarks';
import { makeSurface } from '../../../core/surface/starters';
import { Workbench } from '../../../core/surface/workbench';
import { EditButton, EditMenu } from '../shared/edit';
import { useEdit, useRig, useRigNow } from '../shell/useRig';
import { withField } from './choices';
import { MemberColumn } from './MemberColumn';
import { MemberSettings } from './MemberSettings';
import { PatternEditor } from './PatternEditor';
import { RoutingTable } from './RoutingTable';
import { TransportBar } from './TransportBar';
import { useMoment } from './useMoment';
import styles from './ensemble.module.css';
import shared from '../shared/shared.module.css';

/** A tablet that lies, for the board of chords. */
const TABLET = { width: 1180, height: 820 };

/** The members side by side: what each hears, plays and sends; the transport above them, patterns beneath. */
export function EnsemblePanel() {
  const { document: rig, stage } = useRig();
  const now = useRigNow();
  const edit = useEdit();
  const moment = useMoment();
  const routes = useMemo(() => routingOf(rig), [rig]);
  const [openedId, open] = useState<string | null>(null);
  const [view, setView] = useState<'members' | 'wiring'>('members');
  const opened = rig.members.find(({ id }) => id === openedId);
  const add = (kind: (typeof PART_KINDS)[number]) => {
    const { changes, id } = freshMemberOf(now().document, kind);
    edit({ kind: 'change', changes });
    open(id);
  };
  const addNotes = (input: string, side: Side) => {
    const { changes, id } = addHandNotes(now().document, { input, side });
    edit({ kind: 'change', changes });
    open(id);
  };
  const switchWay = (voiceMapping: string, on: boolean) => edit({ kind: 'setVoiceMapping', voiceMapping, set: { on } });
  const muteOutput = (id: string, muted: boolean) => {
    const output = now().document.outputs.find((candidate) => candidate.id === id);
    if (output) edit({ kind: 'change', changes: [{ list: 'outputs', id, to: withField(output, { muted: muted || undefined }) }] });
  };
  const board = () => {
    const bench = new Workbench(now().document);
    makeSurface(bench, 'Chords', TABLET, 'chords');
    edit({ kind: 'change', changes: bench.squeezed, set: { startsBy: 'first note' } });
  };
  return (
    <div className={styles.screen} data-open={opened !== undefined}>
      <section className={styles.main} aria-labelledby="ensemble-title">
        <div className={styles.head}>
          <h1 id="ensemble-title">Ensemble</h1>
          <Segmented
            aria-label="What is shown"
            value={view}
            options={[
              { value: 'members', label: 'Members' },
              { value: 'wiring', label: 'Wiring' },
            ]}
            onChange={setView}
          />
          <span className={styles.gap} />
          <EditButton onClick={board}>
            Add a board of chords
          </EditButton>
          <EditMenu items={[...PART_KINDS.map((kind) => ({ key: kind, label: <AboutKind kind={kind} />, onClick: () => add(kind) })), ...handsOf(rig).map(({ input, side }) => ({ key: `${input.id} ${side}`, label: <About name={`Notes of the ${side} hand`} about={`Height of ${input.name} is pitch, as long as the hand is there.`} />, onClick: () => addNotes(input.id, side) }))]}>
            <Button type="primary">Add a member</Button>
          </EditMenu>
        </div>
        <TransportBar />
        {rig.members.length === 0 && <p className={`${shared.empty} ${styles.empty}`}>Nobody plays along yet. Add a board of chords and open its surface on a tablet: a whole band under two hands. Or add one member, and choose what it listens to.</p>}
        {view === 'wiring' && rig.members.length > 0 && <RoutingTable routes={routes} {...(!stage && { onWay: switchWay, onOutput: muteOutput })} />}
        {view === 'members' && (
          <ul className={styles.members} aria-label="Members" data-compact={opened?.part.kind === 'pattern'}>
            {routes.map((route) => (
              <MemberColumn key={route.member.id} route={route} blocks={blocksOf(rig, route.member, moment)} opened={route.member.id === openedId} onOpen={() => open(route.member.id === openedId ? null : route.member.id)} />
            ))}
          </ul>
        )}
        {view === 'members' && opened?.part.kind === 'pattern' && <PatternEditor key={opened.id} member={opened} part={opened.part} />}
      </section>
      {opened && <MemberSettings key={opened.id} member={opened} onClose={() => open(null)} />}
    </div>
  );
}

const AboutKind = ({ kind }: { kind: (typeof PART_KINDS)[number] }) => <About {...MEMBERS[kind]} />;

function About({ name, about }: { name: string; about: string }) {
  return (
    <span className={styles.about}>
      <strong>{name}</strong>
      <small>{about}</small>
    </span>
  );
}
