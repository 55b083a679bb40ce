import { Button, Input } from 'antd';
import { useState, type ReactNode } from 'react';
import type { Taught } from '../../core/gesture/exampleBook';
import styles from '../theme/devicePage.module.css';

/** What lies no further apart than this is often taken for the other. */
const CLOSE = 1.2;

interface TeachListProps {
  /** `Mouth sounds`, and one of them: `sound`. */
  legend: string;
  noun: string;
  placeholder: string;
  taught: readonly Pick<Taught, 'name' | 'examples'>[];
  /** So many examples are enough to know it by; so many things can be taught. */
  enough: number;
  most: number;
  likeness: readonly { one: string; other: string; apart: number }[];
  /** What to do about two that are alike. */
  advice: string;
  /** The one that is taught now, and what to do meanwhile. */
  teaching: string | null;
  now: ReactNode;
  /** Whether anything can be taught now. */
  ready: boolean;
  onTeach: (name: string) => void;
  onForget: (name: string) => void;
  /** More of one thing, beneath it. */
  more?: (name: string) => ReactNode;
}

/** Things that are taught by examples, the same for sounds, shapes of the hand and movements: named, taught, taught more, forgotten; what is alike is said. */
export function TeachList({ legend, noun, placeholder, taught, enough, most, likeness, advice, teaching, now, ready, onTeach, onForget, more }: TeachListProps) {
  const [name, setName] = useState('');
  const wanted = name.trim();
  return (
    <fieldset className={styles.part}>
      <legend>{legend}</legend>
      <ul className={styles.taught}>
        {taught.map(({ name: of, examples: { length } }) => (
          <li key={of}>
            <strong>{of}</strong>
            <span>
              {length} {length === 1 ? 'example' : 'examples'}
              {length < enough && ', too few'}
            </span>
            <Button size="small" aria-label={`More examples of ${of}`} disabled={!ready || teaching !== null} onClick={() => onTeach(of)}>
              More
            </Button>
            <Button size="small" danger aria-label={`Forget the ${noun} ${of}`} disabled={teaching !== null} onClick={() => onForget(of)}>
              Forget
            </Button>
            {more?.(of)}
          </li>
        ))}
      </ul>
      {likeness
        .filter(({ apart }) => apart < CLOSE)
        .map(({ one, other }) => (
          <p key={`${one} ${other}`} className={styles.said}>
            <em>{one}</em> and <em>{other}</em> are close: {advice}
          </p>
        ))}
      {likeness.length > 0 && (
        <details>
          <summary className={styles.summary}>What is like what</summary>
          <table className={styles.likeness}>
            <tbody>
              {likeness.map(({ one, other, apart }) => (
                <tr key={`${one} ${other}`} data-close={apart < CLOSE}>
                  <th scope="row">
                    {one} and {other}
                  </th>
                  <td>{apart < 1 ? 'taken for each other' : apart < CLOSE ? 'close' : `${apart.toFixed(1)} times as far as needed`}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      )}
      {teaching !== null ? (
        <p role="status" className={styles.now}>
          {now}
        </p>
      ) : (
        taught.length < most && (
          <span className={styles.pair}>
            <Input aria-label={`Name of the ${noun}`} placeholder={placeholder} maxLength={40} value={name} onChange={({ target }) => setName(target.value)} />
            <Button
              disabled={!ready || wanted === '' || taught.some((one) => one.name === wanted)}
              onClick={() => {
                setName('');
                onTeach(wanted);
              }}
            >
              Teach it
            </Button>
          </span>
        )
      )}
    </fieldset>
  );
}
