import type { Metadata } from 'next';
import { headers } from 'next/headers';
import { nonceOf } from '../../../src/server/http/headers';
import { playedSurface } from '../../../src/server/playedSurface';
import { services } from '../../../src/server/services';
import { earlySocketScript } from '../../../src/web/live/earlySocket';
import { EARLY_FINGERS_SCRIPT } from '../../../src/web/play/earlyFingers';
import { PlaySurface } from '../../../src/web/play/PlaySurface';
import styles from './page.module.css';

/** Letters are fetched once all scripts are there, see `page.css`. */
const LETTERS_LATER = `addEventListener('load',()=>document.documentElement.dataset.loaded='')`;

export const dynamic = 'force-dynamic';

export async function generateMetadata({ params }: { params: Promise<{ surface: string }> }): Promise<Metadata> {
  const { surface: id } = await params;
  const surface = services().desk.current.document.surfaces.find((candidate) => candidate.id === id);
  return surface ? { title: surface.name } : {};
}

export default async function PlayPage({ params }: { params: Promise<{ surface: string }> }) {
  const { surface: id } = await params;
  const { desk, environment } = services();
  const played = playedSurface(id);
  const { document } = desk.current;
  if (!played) {
    return (
      <main className={styles.missing}>
        <h1>There is no surface “{id}” in {document.name}.</h1>
        <ul>
          {document.surfaces.map(({ id: other, name }) => (
            <li key={other}>
              <a href={`/play/${other}`}>{name}</a>
            </li>
          ))}
        </ul>
      </main>
    );
  }
  const nonce = nonceOf(await headers());
  return (
    <>
      <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: `${earlySocketScript(environment.hubPort, played.surface.id)};${EARLY_FINGERS_SCRIPT};${LETTERS_LATER}` }} />
      {/* With the cookie of a joined device, or the network would be refused it. */}
      <link rel="manifest" href={`/play/${encodeURIComponent(id)}/manifest.webmanifest`} crossOrigin="use-credentials" />
      <PlaySurface {...played} hubPort={environment.hubPort} />
    </>
  );
}
