import { useEffect, useMemo, useRef } from 'react';
import { chordName } from '../../../core/ensemble/theory/names';
import { namesIn } from '../../../core/ensemble/theory/spelling';
import type { MemberPart, RigMember } from '../../../core/ensemble/parts';
import type { Route } from '../../../core/ensemble/routing';
import type { Fields } from '../../../core/rig/edit';
import { noteName } from '../../../core/midi/describe';
import { useIsMemberSounding, useMemberPlays } from '../../live/useLiveFacts';
import { EditPlainButton, EditSlider, EditSwitch } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import { useEdit } from '../shell/useRig';
import { VoicePicture } from '../voices/VoicePicture';
import styles from './ensemble.module.css';

interface MemberColumnProps {
  route: Route;
  /** What stands in its way now. */
  blocks: readonly string[];
  opened: boolean;
  onOpen: () => void;
}

/** A member from top to bottom: what it hears, what it plays now, where it goes; level, octave, on and alone. */
export function MemberColumn({ route: { member, kind, hears, ways, leads }, blocks, opened, onOpen }: MemberColumnProps) {
  const edit = useEdit();
  const set = (change: Fields<Omit<RigMember, 'id'>>) => edit({ kind: 'setMember', member: member.id, set: change });
  const column = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (opened) column.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [opened]);
  return (
    <li ref={column} className={styles.member} data-selected={opened} data-blocked={blocks.length > 0} aria-label={`${member.name}, ${kind}`}>
      <button type="button" className={styles.open} aria-expanded={opened} aria-label={`Settings of ${member.name}`} onClick={onOpen}>
        <strong>{member.name}</strong>
        <small>{kind}</small>
      </button>
      <p className={styles.hears}>
        <span aria-hidden>↘</span> {hears.length === 0 ? 'the transport' : hears.slice(0, 2).join(', ')}
        {hears.length > 2 && ` and ${hears.length - 2} more`}
      </p>
      <PlaysNow member={member} picture={ways[0]?.voiceMapping} />
      <p className={styles.goes}>
        <span aria-hidden>→</span> {ways.length === 0 ? 'nowhere' : ways.map(({ output, where }) => `${output} · ${where}`).join('; ')}
      </p>
      {leads.length > 0 && <p className={styles.leads}>leads {leads.join(', ')}</p>}
      <p className={styles.blocks} role="status">
        {blocks.length > 0 ? (
          <>
            <i aria-hidden /> {blocks[0]}
            {blocks.length > 1 && `, and ${blocks.slice(1).join(', ')}`}
          </>
        ) : (
          <span className={styles.free}>free to play</span>
        )}
      </p>
      <div className={styles.knobs}>
        <span>
          <span aria-hidden>Level</span>
          <EditSlider ariaLabelForHandle={`Level of ${member.name}`} min={0} max={100} value={Math.round(member.level * 100)} tooltip={{ formatter: (value) => `${value} %` }} onChange={(value) => set({ level: value / 100 })} />
        </span>
        <span>
          <span aria-hidden>Octave</span>
          <NumberBox label={`Octave of ${member.name}`} min={-4} max={4} whole value={member.octave} onChange={(octave) => set({ octave })} />
        </span>
        <span className={styles.switches}>
          <label>
            <EditSwitch aria-label={`${member.name} is on`} size="small" checked={member.on} onChange={(on) => set({ on })} />
            <span aria-hidden>{member.on ? 'On' : 'Off'}</span>
          </label>
          <EditPlainButton type="button" className={styles.alone} aria-pressed={member.alone === true} onClick={() => set({ alone: member.alone ? null : true })} aria-label={`${member.name} alone`}>
            Alone
          </EditPlainButton>
        </span>
      </div>
    </li>
  );
}

/** So many notes have room by their names. */
const NAMED = 4;

/** See `useMemberPlays`. */
function playsInWords(plays: string, part: MemberPart): string {
  const [what, ...rest] = plays.split(' ');
  const numbers = rest.map(Number);
  if (what === 'chord') return chordName(numbers[0]!, numbers.slice(1), part.kind === 'chord' ? namesIn(part.tonic, part.mode) : undefined);
  return numbers.length > NAMED ? `${numbers.length} notes` : numbers.map((pitch) => noteName(Math.round(pitch))).join(' ');
}

/** The chord, or the notes, in letters, and the last seconds of them as a picture. */
function PlaysNow({ member: { id, part }, picture }: { member: RigMember; picture: string | undefined }) {
  const plays = useMemberPlays(id);
  const name = useMemo(() => playsInWords(plays, part), [plays, part]);
  return (
    <div className={styles.now} data-alive={useIsMemberSounding(id)}>
      <strong>{name || '–'}</strong>
      {picture === undefined ? <span className={styles.picture} /> : <VoicePicture id={picture} className={styles.picture} />}
    </div>
  );
}
