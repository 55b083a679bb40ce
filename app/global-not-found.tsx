import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import type { Metadata } from 'next';
import { connection } from 'next/server';
import { BENCH, cssVariables } from '../src/web/theme/tokens';
import styles from '../src/web/theme/nowhere.module.css';

export const metadata: Metadata = { title: 'Not here · Pumice' };

/** What stands at an address that leads nowhere. Made for each request, so that its scripts carry the nonce of the policy. */
export default async function NotFound() {
  await connection();
  return (
    <html lang="en">
      <body className={styles.nowhere} style={cssVariables(BENCH)}>
        <main>
          <h1>There is nothing at this address.</h1>
          <p>It may be mistyped, or lead to something that was renamed or taken away.</p>
          <ul>
            <li>
              <a href="/mappings">To the Bench</a>
            </li>
            <li>
              <a href="/surfaces">To the surfaces, each with the address of its play page</a>
            </li>
          </ul>
        </main>
      </body>
    </html>
  );
}
