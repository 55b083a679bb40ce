import { useEffect, useMemo, useRef, type CSSProperties } from 'react';
import type { RigControl, RigSurface } from '../../core/rig/document';
import type { Scale } from '../../core/surface/captions';
import { signalsInBank } from '../../core/surface/controlKinds';
import { useLive } from '../live/LiveProvider';
import { useLineStatus } from '../live/useLiveFacts';
import type { Turned } from '../../protocol/live';
import type { Playing } from './PlayContext';
import { useTurns } from './useTurns';
import { PageStrip } from './PageStrip';
import { PlayDesk } from './playDesk';
import { Sheet } from './Sheet';
import { VoiceDesk } from './voiceDesk';

interface BoardProps {
  surface: RigSurface;
  /** For each bank. */
  captions: readonly Readonly<Record<string, string>>[];
  scales: Readonly<Record<string, Scale>>;
  /** Pixels of the window for one of the surface. */
  scale: number;
  style?: CSSProperties;
  /** What the host turned to; from that moment it wins over what was turned to by hand before. */
  turned: Turned;
  /** The page that it begins with; none said: the first. */
  firstPage?: string;
  /** Whether a strip of the pages stands beneath. */
  strip?: boolean;
}

/** A surface that can be played: the controls of the page that is turned to, in the bank that is on. */
export function Board({ surface, captions, scales, scale, style, turned, firstPage, strip = false }: BoardProps) {
  const live = useLive();
  const status = useLineStatus();
  // What is tried from the bench is at the page that the bench is at.
  const kept = firstPage === undefined;
  const [page, setPage] = useTurns(kept ? `pumice.page of ${surface.id}` : null, firstPage ?? surface.pages[0]!.id, turned.page);
  const [bank, setBank] = useTurns(kept ? `pumice.bank of ${surface.id}` : null, 0, turned.bank);
  const scaleNow = useRef(scale);
  useEffect(() => {
    scaleNow.current = scale;
  }, [scale]);
  const desk = useMemo(() => new PlayDesk(live, () => scaleNow.current), [live]);
  const voices = useMemo(() => new VoiceDesk(live), [live]);
  useEffect(() => {
    if (status !== 'open') return;
    desk.sayHeldAgain();
    voices.sayHeldAgain();
  }, [status, desk, voices]);
  const shown = surface.pages.find(({ id }) => id === page) ?? surface.pages[0]!;
  const banks = surface.banks ?? NONE;
  const bankNow = Math.min(bank, Math.max(0, banks.length - 1));
  const controls = useInBank(shown.controls, bankNow);
  const playing = useMemo<Playing>(
    () => ({ desk, voices, live, scale, captions: captions[bankNow] ?? {}, scales, pages: surface.pages, page: shown.id, turnTo: setPage, banks, bank: bankNow, turnToBank: setBank, recall: (scene) => void live.recall(scene) }),
    [desk, voices, live, scale, captions, scales, surface.pages, shown.id, setPage, banks, bankNow, setBank],
  );
  return (
    <>
      <Sheet playing={playing} controls={controls} palette={surface.palette} width={surface.width} height={surface.height} {...(style ? { style } : {})} />
      {strip && <PageStrip pages={surface.pages} page={shown.id} onTurn={setPage} />}
    </>
  );
}

const NONE: readonly string[] = [];

/** The controls with the signals of a bank; one that did not change is the same object, so that no finger loses it. */
function useInBank(controls: readonly RigControl[], bank: number): RigControl[] {
  const made = useRef(new WeakMap<RigControl, Map<number, RigControl>>());
  return useMemo(() => controls.map((control) => inBank(control, bank, made.current)), [controls, bank]);
}

function inBank(control: RigControl, bank: number, made: WeakMap<RigControl, Map<number, RigControl>>): RigControl {
  if (bank === 0) return control;
  const known = made.get(control)?.get(bank);
  if (known) return known;
  const signals = signalsInBank(control, bank);
  const turned = { ...control, signals, ...(control.kind === 'fold' ? { controls: control.controls.map((child) => inBank(child, bank, made)) } : {}) } as RigControl;
  made.set(control, (made.get(control) ?? new Map<number, RigControl>()).set(bank, turned));
  return turned;
}
