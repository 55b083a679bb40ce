import { headers } from 'next/headers';
import { services } from '../../src/server/services';
import { JoinPage } from '../../src/web/join/JoinPage';
import { TrustPage } from '../../src/web/join/TrustPage';

export const dynamic = 'force-dynamic';

/** Where a device joins; where Pumice has TLS and this request came without, first the one step of trust. */
export default async function Page({ searchParams }: { searchParams: Promise<{ code?: string | string[] }> }) {
  const { code } = await searchParams;
  const given = typeof code === 'string' && /^\d{6}$/.test(code) ? code : '';
  const asked = await headers();
  const { https } = services().environment;
  if (https && asked.get('x-forwarded-proto') !== 'https') return <TrustPage securePage={`https://${asked.get('host')}/join${given ? `?code=${given}` : ''}`} />;
  return <JoinPage code={given} />;
}
