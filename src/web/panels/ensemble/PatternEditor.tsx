import { Segmented } from 'antd';
import { useRef, useState, type PointerEvent } from 'react';
import { addLane, addPattern, putHit, putLane, putPattern, removePattern, spreadEvenly, stepAt, withLength } from '../../../core/ensemble/editPattern';
import { LANES_MOST, PATTERNS_MOST, STEPS_MOST } from '../../../core/ensemble/kinds/pattern';
import type { Lane, Pattern, PatternPart, RigMember } from '../../../core/ensemble/parts';
import { msPerBeat } from '../../../core/time/musicalTime';
import { noteName } from '../../../core/midi/describe';
import { useLive } from '../../live/LiveProvider';
import { useMemberStep, useTransport } from '../../live/useLiveFacts';
import { EditButton, EditPlainButton, EditSelect, useLocked } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import { TextField } from '../shared/TextField';
import { useEdit, useRigNow } from '../shell/useRig';
import { HitFields } from './HitFields';
import { LaneSteps, type Place } from './LaneSteps';
import styles from './ensemble.module.css';

/** No step is narrower. */
const LOOK_PX = 6;
const TONES = ['lowest tone', 'second tone', 'third tone', 'fourth tone', 'fifth tone', 'sixth tone'];
const TONE = 1000;

/** The lanes of a pattern, step by step: by mouse, keys and touch, or played in on the pad before each lane. */
export function PatternEditor({ member, part }: { member: RigMember; part: PatternPart }) {
  const now = useRigNow();
  const edit = useEdit();
  const live = useLive();
  const transport = useTransport();
  const step = useMemberStep(member.id);
  const [shownPlace, show] = useState(Math.min(part.present, part.patterns.length - 1));
  const [chosen, choose] = useState<Place | null>(null);
  const shown = Math.min(shownPlace, part.patterns.length - 1);
  const pattern = part.patterns[shown]!;
  const chosenLane = chosen ? pattern.lanes[chosen.lane] : undefined;

  /** The part as it is at the moment, for what is painted faster than anything is drawn. */
  const present = (): PatternPart => {
    const found = now().document.members.find(({ id }) => id === member.id)?.part;
    return found?.kind === 'pattern' ? found : part;
  };
  const set = (next: PatternPart) => edit({ kind: 'setMember', member: member.id, set: { part: next } });
  const change = (of: (pattern: Pattern) => Pattern) => {
    const before = present();
    const old = before.patterns[shown];
    if (old) set(putPattern(before, shown, of(old)));
  };
  const changeLane = (place: number, of: (lane: Lane) => Lane) => change((old) => (old.lanes[place] ? putLane(old, place, of(old.lanes[place])) : old));
  const playIn = (place: number) => {
    if (!transport?.running) return;
    const beat = transport.beat + (live.hubMs - transport.atHubMs) / msPerBeat(transport.bpm);
    changeLane(place, (lane) => putHit(lane, stepAt(beat, part.everyBeats, lane.length), {}));
  };
  return (
    <section className={styles.pattern} aria-label={`Pattern of ${member.name}`}>
      <header>
        <h2>{member.name}</h2>
        <Segmented aria-label="Which pattern is shown" value={shown} options={part.patterns.map(({ name }, value) => ({ value, label: part.present === value ? `${name} plays` : name }))} onChange={show} />
        <EditButton size="small" disabled={part.patterns.length >= PATTERNS_MOST} onClick={() => (set(addPattern(present(), shown)), show(part.patterns.length))}>
          Copy it
        </EditButton>
        <EditButton size="small" disabled={part.present === shown} onClick={() => set({ ...present(), present: shown })}>
          Play it from the next bar
        </EditButton>
        <EditButton size="small" danger disabled={part.patterns.length < 2} onClick={() => set(removePattern(present(), shown))}>
          Take it away
        </EditButton>
      </header>
      <Painting
        onPaint={({ lane, step: at }, on) => {
          choose({ lane, step: at });
          changeLane(lane, (of) => putHit(of, at, on ? {} : null));
        }}
      >
        {pattern.lanes.map((lane, l) => (
          <div key={l} className={styles.lane} role="group" aria-label={`Lane ${lane.name}`}>
            <EditPlainButton type="button" className={styles.pad} aria-label={`Play ${lane.name} in`} title={transport?.running ? 'Writes a hit at this moment' : 'Start the transport, then play it in'} onPointerDown={() => playIn(l)} onKeyDown={({ key, repeat }) => (key === ' ' || key === 'Enter') && !repeat && playIn(l)}>
              ●
            </EditPlainButton>
            <TextField label={`Name of lane ${l + 1}`} maxLength={40} value={lane.name} parse={(text) => text.trim() || lane.name} onChange={(name) => changeLane(l, (of) => ({ ...of, name }))} />
            <Plays lane={lane} part={part} onChange={(plays) => changeLane(l, (of) => ({ ...of, plays }))} />
            <LaneSteps lane={lane} place={l} everyBeats={part.everyBeats} now={step < 0 || part.present !== shown ? -1 : step % lane.length} chosen={chosen?.lane === l ? chosen.step : -1} onChoose={(at) => choose({ lane: l, step: at })} onPut={(at, hit) => changeLane(l, (of) => putHit(of, at, hit))} />
            <NumberBox label={`Steps of ${lane.name}`} min={1} max={STEPS_MOST} whole value={lane.length} onChange={(length) => changeLane(l, (of) => withLength(of, length))} />
            <EditSelect
              aria-label={`Spread hits of ${lane.name} evenly`}
              value={lane.hits.length}
              options={Array.from({ length: lane.length + 1 }, (_, value) => ({ value, label: `${value} even` }))}
              onChange={(hits) => changeLane(l, (of) => spreadEvenly(of, hits))}
            />
            <EditButton size="small" type="text" aria-label={`Take lane ${lane.name} away`} onClick={() => change((old) => putLane(old, l, null))}>
              ✕
            </EditButton>
          </div>
        ))}
      </Painting>
      <footer>
        <EditButton size="small" disabled={pattern.lanes.length >= LANES_MOST} onClick={() => change(addLane)}>
          Add a lane
        </EditButton>
        {pattern.lanes.length === 0 && <p className={styles.said}>This pattern is empty: nothing is played. Add a lane.</p>}
        {chosen && chosenLane && <HitFields lane={chosenLane} at={chosen.step} onPut={(hit) => changeLane(chosen.lane, (of) => putHit(of, chosen.step, hit))} />}
      </footer>
    </section>
  );
}

/** What a lane plays: a key, or a tone of the chord that the pattern listens to. */
function Plays({ lane, part, onChange }: { lane: Lane; part: PatternPart; onChange: (plays: Lane['plays']) => void }) {
  const keys = Array.from({ length: 128 }, (_, note) => ({ value: note, label: `${noteName(note)} · ${note}` }));
  const tones = part.listens === undefined && 'note' in lane.plays ? [] : TONES.map((label, tone) => ({ value: TONE + tone, label }));
  return (
    <EditSelect
      aria-label={`What ${lane.name} plays`}
      showSearch={{ optionFilterProp: 'label' }}
      popupMatchSelectWidth={false}
      value={'note' in lane.plays ? lane.plays.note : TONE + lane.plays.tone}
      options={[...tones, ...keys]}
      onChange={(value) => onChange(value >= TONE ? { tone: value - TONE } : { note: value })}
    />
  );
}

/** A finger that goes down on a step turns it, and every step that it crosses to the same. */
function Painting({ onPaint, children }: { onPaint: (place: Place, on: boolean) => void; children: React.ReactNode }) {
  const locked = useLocked();
  const painting = useRef<{ on: boolean; last: string; x: number; y: number } | null>(null);
  const stepAtPoint = (x: number, y: number): HTMLElement | null => document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-step]') ?? null;
  const paint = ({ clientX, clientY }: PointerEvent) => {
    const now = painting.current;
    if (!now) return;
    // A quick pointer is seen only here and there: the steps between were crossed too.
    const { x, y } = now;
    const looks = Math.max(1, Math.ceil(Math.hypot(clientX - x, clientY - y) / LOOK_PX));
    for (let look = 1; look <= looks; look++) {
      const cell = stepAtPoint(x + ((clientX - x) * look) / looks, y + ((clientY - y) * look) / looks);
      const place = cell && `${cell.dataset.lane} ${cell.dataset.step}`;
      if (!place || place === now.last) continue;
      now.last = place;
      onPaint({ lane: Number(cell.dataset.lane), step: Number(cell.dataset.step) }, now.on);
    }
    painting.current = { ...now, x: clientX, y: clientY };
  };
  return (
    <div
      className={styles.lanes}
      role="group"
      aria-label="Steps"
      data-lanes
      onPointerDown={(event) => {
        const cell = stepAtPoint(event.clientX, event.clientY);
        if (locked || !cell || event.button > 0) return;
        painting.current = { on: cell.dataset.on !== 'true', last: '', x: event.clientX, y: event.clientY };
        // So that a finger is followed wherever it goes, and the focus still goes where it pressed.
        if (event.pointerType === 'touch') cell.releasePointerCapture(event.pointerId);
        paint(event);
      }}
      onPointerMove={paint}
      onPointerUp={() => (painting.current = null)}
      onPointerCancel={() => (painting.current = null)}
      onPointerLeave={(event) => {
        paint(event);
        painting.current = null;
      }}
    >
      {children}
    </div>
  );
}
