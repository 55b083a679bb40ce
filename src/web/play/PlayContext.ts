import { createContext, useContext } from 'react';
import type { RigPage } from '../../core/rig/document';
import type { Scale } from '../../core/surface/captions';
import type { LiveConnection } from '../live/connection';
import type { PlayDesk } from './playDesk';
import type { VoiceDesk } from './voiceDesk';

/** What the controls of a surface share. */
export interface Playing {
  desk: PlayDesk;
  voices: VoiceDesk;
  live: LiveConnection;
  /** Pixels of the window for one of the surface. */
  scale: number;
  /** By control: what stands on it where it has no label of its own. */
  captions: Readonly<Record<string, string>>;
  scales: Readonly<Record<string, Scale>>;
  pages: readonly Pick<RigPage, 'id' | 'name'>[];
  page: string;
  turnTo(page: string): void;
  banks: readonly string[];
  bank: number;
  turnToBank(bank: number): void;
  recall(scene: string): void;
}

export const PlayContext = createContext<Playing | null>(null);

export function usePlaying(): Playing {
  const playing = useContext(PlayContext);
  if (!playing) throw new Error('a control needs a surface around it');
  return playing;
}
