'use client';

import { App } from 'antd';
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useLive } from '../LiveProvider';
import { useRigStore } from '../RigProvider';
import { BrowserMidi, type BrowserPorts } from './browserMidi';
import { ComputerReader, isThisComputer } from './computer';
import { FeedLine } from './feedLine';
import { GamepadReader } from './gamepads';
import type { PointerTaker } from './pointerTaker';
import { PortLender } from './portLender';
import { levelsOf } from '../../../core/gesture/takenPointer';
import { USUAL_TAKING } from '../../../core/inputs/kinds/computer';
import { ofBrowser, ofWindow } from '../../remember';

/** Set while this window brings keyboard and pointer: a reload is not to end that, and other windows are not to join in. */
const BRINGS_COMPUTER = 'pumice.brings-computer';
/** Set once somebody let this browser bring its MIDI ports. */
const BRINGS_MIDI = 'pumice.brings-midi';

interface Feeds {
  /** Whether keyboard and pointer of this computer are an input now. */
  computer: boolean;
  setComputer(on: boolean): void;
  /** Takes the pointer over; null while this computer is no input. */
  taker: PointerTaker | null;
  /** The MIDI ports that this browser brings and lends, null while it does not. */
  midiPorts: BrowserPorts | null;
  bringMidi(): Promise<void>;
}

const FeedsContext = createContext<Feeds | null>(null);

/** What this page brings besides its screen: gamepads always, keyboard, pointer and MIDI ports when asked to. */
export function FeedsProvider({ children }: { children: ReactNode }) {
  const live = useLive();
  const { notification, message } = App.useApp();
  const store = useRigStore();
  const [computer, bringComputer] = useState(false);
  const [taker, setTaker] = useState<PointerTaker | null>(null);
  const [midiPorts, setMidiPorts] = useState<BrowserPorts | null>(null);
  const line = useRef<FeedLine>(null);
  const midi = useRef<BrowserMidi>(null);

  useEffect(() => {
    const opened = new FeedLine(live);
    line.current = opened;
    const gamepads = new GamepadReader(opened, (stoppedMs) =>
      notification.warning({
        message: 'Gamepads were not read',
        description: `This browser read no gamepad for ${Math.round(stoppedMs / 1000)} s while the page was hidden: keep a page of Pumice in view, in a window of its own.`,
        duration: 0,
      }),
    );
    gamepads.start();
    return () => {
      gamepads.stop();
      midi.current?.stop();
      opened.close();
      line.current = null;
    };
  }, [live, notification]);

  useEffect(() => bringComputer(ofWindow.get(BRINGS_COMPUTER) === 'yes'), []);
  const setComputer = useCallback((on: boolean) => {
    ofWindow.set(BRINGS_COMPUTER, on ? 'yes' : 'no');
    bringComputer(on);
  }, []);
  useEffect(() => {
    if (!computer || !line.current) return;
    const input = () => store.current().document.inputs.find(isThisComputer);
    const signalOf = (key: string) => {
      const of = input()?.id;
      return store.current().document.signals.find((candidate) => candidate.source === key && candidate.input === of);
    };
    const reader = new ComputerReader(line.current, (key) => live.store.signals.value(signalOf(key)?.id ?? ''));
    // Whatever screen is open, it is known where the levels of the pointer are, so that it goes on from there.
    let heard = { ids: '', end: (): void => undefined };
    const hear = () => {
      const levels = levelsOf(reader.taker.taking ?? USUAL_TAKING).flatMap((key) => signalOf(key) ?? []);
      const ids = levels.map(({ id }) => id).join('\n');
      if (ids === heard.ids) return;
      heard.end();
      const ends = levels.map(({ id, source }) => live.store.signals.listen(id, (value) => reader.taker.hears(source!, value)));
      heard = { ids, end: () => ends.forEach((end) => end()) };
    };
    const follow = () => {
      reader.taker.taking = input()?.taking ?? USUAL_TAKING;
      hear();
    };
    follow();
    const unfollow = store.subscribe(follow);
    reader.start();
    setTaker(reader.taker);
    return () => {
      unfollow();
      heard.end();
      reader.stop();
      setTaker(null);
    };
  }, [computer, live, store]);

  const bringMidi = useCallback(async () => {
    if (!line.current) return;
    midi.current ??= new BrowserMidi(line.current, new PortLender(live), setMidiPorts);
    const problem = await midi.current.start();
    if (problem) void message.error(problem);
    else ofBrowser.set(BRINGS_MIDI, 'yes');
  }, [message, live]);
  // What was brought once is brought again by itself, as long as the browser still allows it.
  useEffect(() => {
    if (ofBrowser.get(BRINGS_MIDI) === 'yes') void bringMidi();
  }, [bringMidi]);

  const feeds = useMemo(() => ({ computer, setComputer, taker, midiPorts, bringMidi }), [computer, setComputer, taker, midiPorts, bringMidi]);
  return <FeedsContext value={feeds}>{children}</FeedsContext>;
}

export function useFeeds(): Feeds {
  const feeds = useContext(FeedsContext);
  if (!feeds) throw new Error('useFeeds needs a FeedsProvider above it');
  return feeds;
}
