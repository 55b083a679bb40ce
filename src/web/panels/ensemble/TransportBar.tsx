import { Button } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { beatsPerBar, msPerBeat } from '../../../core/time/musicalTime';
import type { RigDocument } from '../../../core/rig/document';
import { counted } from '../../../core/units/counted';
import type { TransportState } from '../../../protocol/transport';
import { addFigure, FIGURE_MS } from '../../live/figures';
import { useLive } from '../../live/LiveProvider';
import { useTransport } from '../../live/useLiveFacts';
import { EditSelect } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import { Popup } from '../shared/Popup';
import { useEdit, useRig } from '../shell/useRig';
import { useTellNow } from '../shell/useTellNow';
import { ByGate } from './ByGate';
import { useTap } from './useTap';
import styles from './ensemble.module.css';

/** A nudge is as much as a hand feels as late. */
const NUDGE_BEATS = 1 / 48;
const MOST_BAR = 9999;
const METERS: RigDocument['meter'][] = [[2, 4], [3, 4], [4, 4], [5, 4], [6, 8], [7, 8], [9, 8], [12, 8], [2, 2]];

/** Start, stop, where it is, and how fast; and who says so. */
export function TransportBar() {
  const tell = useTellNow();
  const { document: rig } = useRig();
  const edit = useEdit();
  const transport = useTransport();
  const tap = useTap();
  const running = transport?.running ?? false;
  const { meter } = rig;
  return (
    <div className={styles.transport} role="group" aria-label="Transport">
      <Button type={running ? 'default' : 'primary'} onClick={() => tell({ kind: 'transport', does: 'start' })} aria-label="Start from the beginning">
        ▸ Start
      </Button>
      <Button disabled={running} onClick={() => tell({ kind: 'transport', does: 'continue' })} aria-label="Go on from here">
        Go on
      </Button>
      <Button onClick={() => tell({ kind: 'transport', does: 'stop' })} aria-label="Stop the ensemble">
        ■ Stop
      </Button>
      <Popup content={<GoTo meter={meter} />}>
        <button type="button" className={styles.place} title="Go to a bar">
          <Position transport={transport} meter={meter} />
        </button>
      </Popup>
      <span className={styles.tempo} aria-label="Tempo that is played">
        {(transport?.bpm ?? rig.tempoBpm).toFixed(1)} <small>bpm</small>
      </span>
      <Button onPointerDown={tap} onKeyDown={({ key, repeat }) => (key === ' ' || key === 'Enter') && !repeat && tap()} aria-label="Tap the tempo">
        Tap
      </Button>
      <span className={styles.nudge}>
        <Button aria-label="A little later" title="A little later" onClick={() => tell({ kind: 'transport', does: 'nudge', beats: -NUDGE_BEATS })}>
          ‹
        </Button>
        <Button aria-label="A little sooner" title="A little sooner" onClick={() => tell({ kind: 'transport', does: 'nudge', beats: NUDGE_BEATS })}>
          ›
        </Button>
      </span>
      <ByGate />
      <EditSelect aria-label="Meter" value={meter.join('/')} options={METERS.map((each) => ({ value: each.join('/'), label: each.join('/') }))} onChange={(text) => edit({ kind: 'setRig', set: { meter: METERS.find((each) => each.join('/') === text)! } })} />
      <EditSelect
        aria-label="Count-in"
        title="Clicked where the metronome is on: Takes, Recording…"
        value={rig.countInBars ?? 0}
        options={[0, 1, 2].map((bars) => ({ value: bars, label: bars === 0 ? 'no count-in' : `${counted(bars, 'bar')} counted in` }))}
        onChange={(bars) => edit({ kind: 'setRig', set: { countInBars: bars || null } })}
      />
      <EditSelect
        aria-label="What starts it"
        value={rig.startsBy ?? 'hand'}
        options={[
          { value: 'hand', label: 'started by hand' },
          { value: 'first note', label: 'by the first note' },
        ]}
        onChange={(by) => edit({ kind: 'setRig', set: { startsBy: by === 'hand' ? null : 'first note' } })}
      />
      <output className={styles.leader}>{leaderInWords(transport)}</output>
    </div>
  );
}

/** The piece goes on from the beginning of a bar; or begins there, where it stands. */
function GoTo({ meter }: { meter: RigDocument['meter'] }) {
  const tell = useTellNow();
  const [bar, setBar] = useState(1);
  const go = (next: number) => {
    setBar(next);
    tell({ kind: 'transport', does: 'goTo', beat: (next - 1) * beatsPerBar(meter) });
  };
  return (
    <label>
      Go to bar <NumberBox label="Go to bar" min={1} max={MOST_BAR} whole value={bar} onChange={go} />
    </label>
  );
}

/** Who says the tempo, and what is wrong with a clock. */
function leaderInWords(transport: TransportState | null): string {
  if (!transport) return '';
  const { from, clock, bpm, running } = transport;
  if (clock?.lost) return `The clock of ${clock.name} has stopped without a word: ${running ? `it goes on at ${bpm.toFixed(1)}` : 'waiting for it'}.`;
  if (clock?.second) return `Follows the clock of ${clock.name}; that of ${clock.second} comes too and is not followed.`;
  if (from === 'clock') return `Follows the clock of ${clock!.name}.`;
  if (from === 'take') return 'In the tempo of the take that plays.';
  return from === 'tapped' ? 'In a tempo that was tapped, or that a clock left; it holds until another is set.' : '';
}

/** Bar and beat, running on its own between what the hub says. */
function Position({ transport, meter }: { transport: TransportState | null; meter: RigDocument['meter'] }) {
  const live = useLive();
  const text = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const figure = addFigure(() => {
      const beat = transport ? transport.beat + (transport.running ? (live.hubMs - transport.atHubMs) / msPerBeat(transport.bpm) : 0) : 0;
      const said = positionInWords(transport?.running ? beat : Math.max(0, beat), meter);
      if (text.current && text.current.textContent !== said) text.current.textContent = said;
    });
    figure.changed();
    if (!transport?.running) return figure.remove;
    const timer = setInterval(figure.changed, FIGURE_MS);
    return () => {
      clearInterval(timer);
      figure.remove();
    };
  }, [live, transport, meter]);
  return (
    <span className={styles.position} data-alive={transport?.running === true} role="timer" aria-label="Bar and beat">
      <span ref={text}>1.1</span>
    </span>
  );
}

/** Bars and beats as people count them; before the beginning the beats that are left. */
export function positionInWords(beat: number, meter: RigDocument['meter']): string {
  if (beat < 0) return `−${Math.ceil(-beat * (meter[1] / 4))}`;
  const bar = beatsPerBar(meter);
  return `${Math.floor(beat / bar + 1e-6) + 1}.${Math.floor(((beat % bar) * meter[1]) / 4 + 1e-6) + 1}`;
}
