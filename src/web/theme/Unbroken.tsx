'use client';

import { Component, type ReactNode } from 'react';
import { loadAnew } from './loadAnew';
import styles from './nowhere.module.css';
import { cssVariables, STAGE } from './tokens';

/**
 * Around a page: where what it shows breaks, it says so and is loaded anew, for on stage nobody has a hand for it. Dark, for it may be dark there.
 * One around all pages (`global-error`) would be a script more for each.
 */
export class Unbroken extends Component<{ children: ReactNode }, { error: unknown }> {
  override state = { error: null };

  static getDerivedStateFromError(error: unknown): { error: unknown } {
    return { error: error ?? 'nothing' };
  }

  override componentDidCatch(error: unknown): void {
    // As if nobody had caught it, for whoever looks into the browser's console.
    reportError(error);
    loadAnew(() => sessionStorage, () => location.reload(), Date.now());
  }

  override render(): ReactNode {
    const { error } = this.state;
    if (error === null) return this.props.children;
    return (
      <div className={styles.nowhere} style={cssVariables(STAGE)}>
        <main>
          <h1>This page broke, and is loaded anew.</h1>
          <p>What it held is let go of, and all that was set is kept. If it broke twice within ten seconds, or this browser remembers nothing, it waits for you.</p>
          <p className={styles.said}>It said: {String(error)}</p>
          <button type="button" onClick={() => location.reload()}>
            Load it anew
          </button>
        </main>
      </div>
    );
  }
}
