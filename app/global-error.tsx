'use client';

import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import { useEffect } from 'react';
import { loadAnew } from '../src/web/loadAnew';
import { cssVariables, STAGE } from '../src/web/theme/tokens';
import styles from './nowhere.module.css';

/** What stands where a page broke: it loads itself anew, for on stage nobody has a hand for it. Dark, for it may be dark there. */
export default function Broken({ error }: { error: Error }) {
  useEffect(() => {
    // As if nobody had caught it, for whoever looks into the browser's console.
    reportError(error);
    loadAnew(sessionStorage, () => location.reload(), Date.now());
  }, [error]);
  return (
    <html lang="en">
      <body className={styles.nowhere} style={cssVariables(STAGE)}>
        <main>
          <h1>This page broke, and is loaded anew.</h1>
          <p>What it held is let go of, and all that was set is kept. If it broke twice within ten seconds it waits for you.</p>
          <p className={styles.said}>It said: {error.message || 'nothing'}</p>
          <button type="button" onClick={() => location.reload()}>
            Load it anew
          </button>
        </main>
      </body>
    </html>
  );
}
