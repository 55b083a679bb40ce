import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { noteName } from '../../core/midi/describe';
import { pitchOfHz } from '../../core/voices/pitch';
import type { Profile } from '../../core/listening/profile';
import { addFigure } from '../live/figures';
import type { Heard } from '../live/heard';
import styles from '../theme/devicePage.module.css';
import type { FromListener, HeardNow } from './messages';

const STRUCK_KEPT = 5;

interface FactsProps {
  heard: Heard<HeardNow>;
  struck: Heard<FromListener>;
  profile: Profile;
  delayMs: () => number;
}

/** What is heard, in numbers and words: the pitch with its cents, the vowel, what was struck last, the delay. */
export function Facts({ heard, struck, profile, delayMs }: FactsProps) {
  const pitch = useRef<HTMLElement>(null);
  const note = useRef<HTMLElement>(null);
  const vowel = useRef<HTMLElement>(null);
  const delay = useRef<HTMLElement>(null);
  const [last, setLast] = useState<string[]>([]);
  useLayoutEffect(() => {
    const figures = addFigure(() => {
      const now = heard.last;
      if (!now) return;
      pitch.current!.textContent = inWords(now.hz);
      note.current!.textContent = noteWords(now);
      vowel.current!.textContent = vowelWords(now, profile);
      delay.current!.textContent = `${(delayMs() + now.hopMs).toFixed(1)} ms, ${(1000 * now.hopMs).toFixed(0)} µs of it analysis`;
    });
    const remove = heard.listen(figures.changed);
    return () => {
      figures.remove();
      remove();
    };
  }, [heard, profile, delayMs]);
  useEffect(() => struck.listen((message) => message.kind === 'struck' && setLast((before) => [message.sound ?? 'none of them', ...before].slice(0, STRUCK_KEPT))), [struck]);
  return (
    <dl className={styles.facts}>
      <div>
        <dt>Pitch</dt>
        <dd ref={pitch}>–</dd>
      </div>
      <div>
        <dt>Note</dt>
        <dd ref={note}>–</dd>
      </div>
      <div>
        <dt>Vowel</dt>
        <dd ref={vowel}>–</dd>
      </div>
      <div>
        <dt>Struck last</dt>
        <dd>{profile.sounds.length === 0 ? 'no sound is taught yet' : last.length === 0 ? '–' : last.join(', ')}</dd>
      </div>
      <div>
        <dt>Microphone to here</dt>
        <dd ref={delay}>–</dd>
      </div>
    </dl>
  );
}

function inWords(hz: number): string {
  if (hz === 0) return 'none';
  const pitch = pitchOfHz(hz);
  const cents = Math.round(100 * (pitch - Math.round(pitch)));
  return `${noteName(Math.round(pitch))} ${cents >= 0 ? '+' : '−'}${Math.abs(cents)} cents, ${hz.toFixed(1)} Hz`;
}

/** The note that sounds, or why none does. */
function noteWords({ note, whyNot }: HeardNow): string {
  if (!Number.isNaN(note)) return noteName(Math.round(note));
  return whyNot === null ? 'none' : `none: ${whyNot}`;
}

function vowelWords({ vowels, vowelsHold, open, front }: HeardNow, profile: Profile): string {
  const place = `open ${Math.round(100 * open)} %, front ${Math.round(100 * front)} %`;
  if (vowels.length === 0) return place;
  const most = vowels.indexOf(Math.max(...vowels));
  return `${profile.vowels[most]?.name ?? ''} ${Math.round(100 * vowels[most]!)} %${vowelsHold ? ', held: sung too high to tell' : ''}; ${place}`;
}
