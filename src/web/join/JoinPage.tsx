'use client';

import { useEffect, useState, type FormEvent } from 'react';
import { postJoin, RefusedError } from '../live/fetchRig';
import { cssVariables, STAGE } from '../theme/tokens';
import { ofBrowser } from '../remember';
import styles from './join.module.css';

const NAME = 'pumice.join.name';

/** Where a device says the code of the host and what it is called, and is taken to its surface. */
export function JoinPage({ code: given }: { code: string }) {
  const [code, setCode] = useState(given);
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(true);

  useEffect(() => {
    // What the browser knows is known only here, after the server's picture was taken over.
    setName(ofBrowser.get(NAME) ?? (Math.min(screen.width, screen.height) < 600 ? 'Phone' : 'Tablet'));
    setBusy(false);
  }, []);

  const join = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setProblem(null);
    try {
      const { page } = await postJoin({ code, name, width: innerWidth, height: innerHeight });
      ofBrowser.set(NAME, name);
      location.replace(page);
    } catch (error) {
      setProblem(error instanceof RefusedError ? error.message : 'Pumice did not answer: see whether it runs, and whether this device is in the same network.');
      setBusy(false);
    }
  };

  return (
    <main className={styles.join} style={cssVariables(STAGE)}>
      <h1>Join Pumice</h1>
      <form onSubmit={(event) => void join(event)}>
        <label>
          The code that the host shows
          <input className={styles.code} inputMode="numeric" autoComplete="off" maxLength={7} required placeholder="000000" value={code} autoFocus={given === ''} onChange={({ target }) => setCode(target.value.replace(/[^\d\s]/g, ''))} />
        </label>
        <label>
          What this device is called
          <input maxLength={80} required value={name} onChange={({ target }) => setName(target.value)} />
        </label>
        {problem && <p role="alert">{problem}</p>}
        <button type="submit" className={styles.go} disabled={busy}>
          Join
        </button>
      </form>
      <p>The code stands on the host, on the screen Surfaces, under “Joined devices”.</p>
    </main>
  );
}
