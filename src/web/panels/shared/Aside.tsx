import { Button } from 'antd';
import type { ReactNode } from 'react';
import { usePanel } from './usePanel';
import styles from './Aside.module.css';

/** What opens beside what a screen lists. */
export function Aside({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  const panel = usePanel<HTMLElement>(onClose);
  return (
    <aside ref={panel} tabIndex={-1} className={styles.beside} aria-label={title}>
      <header>
        <h2>{title}</h2>
        <Button type="text" aria-label="Close" onClick={onClose}>
          ✕
        </Button>
      </header>
      {children}
    </aside>
  );
}
