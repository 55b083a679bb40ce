import type { RigPage } from '../../core/rig/document';
import { atOnce } from '../atOnce';
import styles from './PageStrip.module.css';

/** Height of the strip, in pixels of the window: a finger finds it in the dark. */
export const STRIP_PX = 48;

interface PageStripProps {
  pages: readonly RigPage[];
  page: string;
  onTurn: (page: string) => void;
}

/** The pages of a surface that has no tabs of its own for them. */
export function PageStrip({ pages, page, onTurn }: PageStripProps) {
  return (
    <nav className={styles.strip} aria-label="Pages" style={{ height: STRIP_PX }}>
      {pages.map(({ id, name }) => (
        <button key={id} type="button" aria-current={id === page ? 'page' : undefined} {...atOnce(() => onTurn(id))}>
          {name}
        </button>
      ))}
    </nav>
  );
}
