import { App, Button, Select, Switch } from 'antd';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { ScoreLane } from '../../../core/takes/lanes';
import { playedToMs, type TakeDetail } from '../../../protocol/takes';
import { isTyping } from '../../live/isTyping';
import { letterOf } from '../../live/keys';
import { useLive } from '../../live/LiveProvider';
import { usePlayingTake } from '../../live/useLiveFacts';
import { useCanvas } from '../shared/useCanvas';
import { rulerOf } from './drawLane';
import { playTake, stopTake } from './fetchTakes';
import { LaneRow, laneKey, type ShownLane } from './LaneRow';
import type { Mark } from '../../../core/takes/take';
import styles from './takes.module.css';
import { TimeView } from './timeView';
import type { TakePicture } from './useTakePicture';
import { useTimeGestures } from './useTimeGestures';
import { clockOf, preciseClockOf } from '../../recording/words';
import { EditButton } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import shared from '../shared/shared.module.css';

const KEY_PX = 60;
const CLOSER = 1.5;

interface LanesProps {
  detail: TakeDetail;
  version: string;
  picture: TakePicture;
  marks: readonly Mark[];
  onMarks: (marks: Mark[]) => void;
}

/** How it is played: what is looped, or with `punch` recorded anew meanwhile; the lines that are not heard; null: to where it went. */
interface How {
  speed: number;
  output: string | null;
  loop: { fromMs: number; toMs: number } | null;
  punch: boolean;
  muted: readonly string[];
}

const AS_IT_WAS: How = { speed: 1, output: null, loop: null, punch: false, muted: [] };

/** The picture of a take: a row for each line of music, address and signal over one ruler; and its transport. */
export function Lanes({ detail, version, picture, marks, onMarks }: LanesProps) {
  const { take, rig } = detail;
  const [view] = useState(() => new TimeView(take.lengthMs));
  const [cursorMs, setCursor] = useState(0);
  const [how, setHow] = useState(AS_IT_WAS);
  const { speed, output, loop, punch, muted } = how;
  const [deep, setDeep] = useState(false);
  const [words, setWords] = useState('');
  const { message } = App.useApp();
  const live = useLive();
  const playing = usePlayingTake();
  const plays = playing?.take === take.id && playing.version === version;
  const rows = useMemo(() => rowsOf(picture, detail, deep), [picture, detail, deep]);
  const lines = [...new Set(rows.flatMap(({ line }) => (line === null ? [] : [line])))];
  const play = (fromMs = cursorMs, { loop: place, punch: records, ...rest } = how) => void playTake(take.id, version, { ...rest, fromMs, loop: records ? null : place, punch: records ? place : null }).catch((error: Error) => message.error(error.message));
  /** Where the line is, which goes along while it plays. */
  const lineMs = () => (plays ? playedToMs(playing, live.hubMs) : cursorMs);
  const goTo = (ms: number) => {
    setCursor(ms);
    if (plays) play(ms);
  };
  const stop = () => void stopTake().catch((error: Error) => message.error(error.message));
  /** What plays goes on so from where it is. */
  const change = (changes: Partial<How>) => {
    const next = { ...how, ...changes };
    setHow(next);
    if (plays) play(lineMs(), next);
  };
  const mute = (lines: readonly string[]) => change({ muted: lines });
  const body = useRef<HTMLDivElement>(null);
  useTimeGestures(body, view);

  const press = (event: KeyboardEvent) => {
    if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
    const step = event.shiftKey ? 10 * KEY_PX : KEY_PX;
    const does: Record<string, () => void> = {
      ' ': () => (plays ? stop() : play()),
      ArrowLeft: () => view.along(-step),
      ArrowRight: () => view.along(step),
      '+': () => view.closer(CLOSER),
      '=': () => view.closer(CLOSER),
      '-': () => view.closer(1 / CLOSER),
      Home: () => view.along(-1e9),
      End: () => view.along(1e9),
      f: () => view.all(),
    };
    const found = does[event.key] ?? does[letterOf(event) ?? ''];
    // A button is pressed by the space bar, other fields have arrow keys of their own as well.
    const { tagName } = event.target as HTMLElement;
    if (!found || tagName === 'INPUT' || (event.key === ' ' && tagName === 'BUTTON')) return;
    event.preventDefault();
    found();
  };
  return (
    <div className={styles.picture} onKeyDown={press}>
      <div className={styles.transport}>
        <Button type="primary" aria-label={plays ? 'Stop' : 'Play'} disabled={picture.lanes === null} onClick={() => (plays ? stop() : play())}>
          {plays ? 'Stop' : 'Play'}
        </Button>
        <Position cursorMs={cursorMs} plays={plays} />
        <label>
          Speed
          <NumberBox label="Speed" locks={false} min={0.1} max={8} step={0.1} value={speed} onChange={(next) => change({ speed: next })} />
        </label>
        <label>
          To
          <Select
            aria-label="Output that it plays to"
            value={output ?? ''}
            options={[{ value: '', label: 'where it went' }, ...rig.outputs.map(({ id, name }) => ({ value: id, label: name }))]}
            onChange={(next: string) => change({ output: next || null })}
          />
        </label>
        <label>
          Loop
          <Switch aria-label="Loop what is shown" checked={loop !== null} onChange={(on) => change({ punch: false, loop: on ? { fromMs: view.fromMs, toMs: Math.min(view.toMs, take.lengthMs) } : null })} />
        </label>
        {loop && (
          <label title="Plays it once, and records a new take between these places">
            {clockOf(loop.fromMs)} to {clockOf(loop.toMs)}, punch in
            <Switch aria-label="Record between these places" checked={punch} onChange={(on) => change({ punch: on })} />
          </label>
        )}
        <label>
          Signals and single voices
          <Switch aria-label="Signals and single voices" checked={deep} onChange={setDeep} />
        </label>
      </div>
      <div ref={body} className={styles.rows} tabIndex={0} aria-label="Picture of the take">
        <Ruler view={view} marks={marks} loop={loop} entries={picture.entries} onCursor={goTo} />
        <ul>
          {rows.map((row) => (
            <LaneRow key={row.key} row={row} view={view} isMuted={row.line !== null && muted.includes(row.line)} onMute={() => row.line && mute(muted.includes(row.line) ? muted.filter((line) => line !== row.line) : [...muted, row.line])} onAlone={() => row.line && mute(muted.length === lines.length - 1 && !muted.includes(row.line) ? [] : lines.filter((line) => line !== row.line))} onWords={setWords} />
          ))}
        </ul>
        {picture.lanes?.length === 0 && <p className={shared.empty}>Nothing left in this take: nobody moved anything that is mapped.</p>}
        <CursorLine view={view} cursorMs={cursorMs} plays={plays} />
      </div>
      <footer className={styles.words}>
        <output>{words || 'Point at something: what is there is said here, in words, bytes and time.'}</output>
        <MarkTools marks={marks} stands={plays ? null : cursorMs} lineMs={lineMs} onMarks={onMarks} onCursor={goTo} />
      </footer>
    </div>
  );
}

/**
 * The rows that are shown: lines of music and the curves of mappings; with `deep` also what belongs to single voices, and every
 * signal. What lies beneath is the same before it was tidied, or the version that this one is compared with.
 */
function rowsOf({ lanes, before, tidied, signals }: TakePicture, { rig }: TakeDetail, deep: boolean): ShownLane[] {
  if (!lanes) return [];
  const [shown, beneath] = tidied ? [tidied.lanes, lanes] : [lanes, before];
  const was = new Map((beneath ?? []).map((lane) => [laneKey(lane), lane]));
  const is = new Set(shown.map(laneKey));
  const row = (lane: ScoreLane, isGone: boolean): ShownLane => {
    const { source } = lane;
    const key = laneKey(lane);
    const name = rig.mappings.find(({ id }) => id === source.mapping)?.name ?? source.mapping ?? source.who;
    return { key, name, of: rig.outputs.find(({ id }) => id === source.output)?.name ?? source.output, line: `${source.output} ${source.who} ${source.mapping}`, lane, before: beneath === null ? 'same' : (was.get(key) ?? null), isGone, range: null };
  };
  const ofScore = [...shown.map((lane) => row(lane, false)), ...(beneath ?? []).filter((lane) => !is.has(laneKey(lane))).map((lane) => row(lane, true))];
  const usual = ofScore.filter(({ lane }) => deep || lane.kind === 'notes' || (lane.kind === 'curve' && lane.source.who !== 'voice'));
  if (!deep) return usual;
  const signalRow = (lane: TakePicture['signals'][number]): ShownLane => {
    const signal = rig.signals.find(({ id }) => id === lane.id);
    return { key: `signal ${lane.id}`, name: signal?.name ?? lane.id, of: 'signal', line: null, lane, before: 'same', isGone: false, range: signal?.range ?? null };
  };
  return [...usual, ...signals.map(signalRow)];
}

interface RulerProps {
  view: TimeView;
  marks: readonly Mark[];
  loop: { fromMs: number; toMs: number } | null;
  entries: TakePicture['entries'];
  onCursor: (ms: number) => void;
}

/** The time, marks, scenes and edits; a click puts the line there. */
function Ruler({ view, marks, loop, entries, onCursor }: RulerProps) {
  const { ref, wake } = useCanvas((drawing) => {
    const { context, width, height, palette } = drawing;
    view.setWidth(width);
    if (loop) {
      context.fillStyle = palette.sunken;
      context.fillRect(view.placeOf(loop.fromMs), 0, view.placeOf(loop.toMs) - view.placeOf(loop.fromMs), height);
    }
    context.font = `13px ${getComputedStyle(context.canvas as HTMLCanvasElement).fontFamily}`;
    for (const { atMs, stepMs } of rulerOf(view)) {
      const x = view.placeOf(atMs);
      context.fillStyle = palette.hairline;
      context.fillRect(x, height - 6, 1, 6);
      context.fillStyle = palette.quiet;
      context.fillText(stepMs < 1000 ? preciseClockOf(atMs) : clockOf(atMs), x + 3, height - 5);
    }
    context.fillStyle = palette.quiet;
    let free = -Infinity;
    for (const { atMs, words } of entries) {
      const x = view.placeOf(atMs);
      if (x < -200 || x > width) continue;
      context.fillRect(x, 0, 1, 14);
      if (x < free) continue;
      context.fillText(words, x + 4, 13);
      free = x + 12 + context.measureText(words).width;
    }
    for (const { atMs, name } of marks) {
      const x = view.placeOf(atMs);
      context.fillStyle = palette.accent;
      context.fillRect(x, 0, 2, height);
      context.fillText(name, x + 5, 30);
    }
  });
  useEffect(() => view.listen(() => wake()), [view, wake]);
  const at = (event: PointerEvent<HTMLCanvasElement>) => view.timeAt(event.clientX - event.currentTarget.getBoundingClientRect().left);
  return (
    <div className={styles.ruler}>
      <span className={styles.zoom}>
        <Button aria-label="Wider" onClick={() => view.closer(1 / CLOSER)}>
          −
        </Button>
        <Button aria-label="Closer" onClick={() => view.closer(CLOSER)}>
          +
        </Button>
        <Button onClick={() => view.all()}>All</Button>
      </span>
      <canvas ref={ref} onPointerDown={(event) => event.button === 0 && onCursor(Math.max(0, at(event)))} aria-hidden />
    </div>
  );
}

/** The line where it plays from, and where it is while it plays. */
function CursorLine({ view, cursorMs, plays }: { view: TimeView; cursorMs: number; plays: boolean }) {
  const line = useRef<HTMLDivElement>(null);
  const live = useLive();
  const playing = usePlayingTake();
  // Ends before its element is gone: other effects end a moment later, and a frame may come between.
  useLayoutEffect(() => {
    let frame = 0;
    const place = () => {
      const atMs = plays && playing ? playedToMs(playing, live.hubMs) : cursorMs;
      if (plays) view.follow(atMs);
      const x = view.placeOf(atMs);
      line.current!.style.transform = `translateX(${x}px)`;
      line.current!.hidden = x < 0 || atMs > view.toMs;
      if (plays) frame = requestAnimationFrame(place);
    };
    place();
    const end = view.listen(() => !plays && place());
    return () => {
      cancelAnimationFrame(frame);
      end();
    };
  }, [view, cursorMs, plays, playing, live]);
  return <div ref={line} className={styles.cursor} aria-hidden />;
}

/** Where the line is. */
function Position({ cursorMs, plays }: { cursorMs: number; plays: boolean }) {
  const live = useLive();
  const playing = usePlayingTake();
  const [, again] = useState(0);
  useEffect(() => {
    if (!plays) return;
    const timer = setInterval(() => again((count) => count + 1), 100);
    return () => clearInterval(timer);
  }, [plays]);
  return <time className={styles.position}>{preciseClockOf(plays && playing ? playedToMs(playing, live.hubMs) : cursorMs)}</time>;
}

function freshName(marks: readonly Mark[]): string {
  let number = marks.length + 1;
  while (marks.some(({ name }) => name === `Mark ${number}`)) number++;
  return `Mark ${number}`;
}

interface MarkToolsProps {
  marks: readonly Mark[];
  /** Where the line stands; null while it plays. */
  stands: number | null;
  lineMs: () => number;
  onMarks: (marks: Mark[]) => void;
  onCursor: (ms: number) => void;
}

/** Goes from mark to mark, and makes one at the line. */
function MarkTools({ marks, stands, lineMs, onMarks, onCursor }: MarkToolsProps) {
  const sorted = [...marks].sort((a, b) => a.atMs - b.atMs);
  const here = stands === null ? undefined : sorted.find(({ atMs }) => Math.abs(atMs - stands) < 1);
  const next = () => {
    const fromMs = lineMs();
    onCursor((sorted.find(({ atMs }) => atMs > fromMs + 1) ?? sorted[0]!).atMs);
  };
  return (
    <span className={styles.marks}>
      <Button disabled={sorted.length === 0} onClick={next}>
        Next mark
      </Button>
      {here ? (
        <EditButton onClick={() => onMarks(sorted.filter((mark) => mark !== here))}>
          Remove {here.name}
        </EditButton>
      ) : (
        <EditButton onClick={() => onMarks([...sorted, { atMs: lineMs(), name: freshName(sorted) }].sort((a, b) => a.atMs - b.atMs))}>
          Mark the line
        </EditButton>
      )}
    </span>
  );
}
