import { cssVariables, STAGE } from '../theme/tokens';
import styles from './join.module.css';

/** The one-time step that makes a device believe the certificate of this computer. */
export function TrustPage({ securePage }: { securePage: string }) {
  return (
    <main className={styles.join} style={cssVariables(STAGE)}>
      <h1>Trust this computer once</h1>
      <p>Motion sensors, microphone and camera work on secure pages alone. Pumice made a certificate of its own for that, which this device does not know yet.</p>
      <ol>
        <li>
          <a className={styles.file} href="/join/certificate" download="pumice.crt">
            Load the certificate
          </a>
        </li>
        <li>
          Tell the device to trust it:
          <dl>
            <dt>iOS</dt>
            <dd>Settings, General, VPN &amp; Device Management: install “Pumice on …”. Then General, About, Certificate Trust Settings: switch it on.</dd>
            <dt>Android</dt>
            <dd>Settings, Security, Encryption &amp; credentials, Install a certificate, CA certificate: choose pumice.crt.</dd>
            <dt>Another computer</dt>
            <dd>Open pumice.crt and add it to the authorities that are trusted for web sites.</dd>
          </dl>
        </li>
        <li>
          <a className={styles.go} href={securePage}>
            Go on to the secure page
          </a>
        </li>
      </ol>
      <p>Without the first two steps the browser warns on the secure page; most let you go on all the same, some then keep the live line shut. Remove the certificate from the device when you no longer play with this computer.</p>
    </main>
  );
}
