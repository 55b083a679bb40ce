import { headers } from 'next/headers';
import { nonceOf } from '../src/server/http/headers';
import { WHOLE_PAGE_SCRIPT } from '../src/web/theme/wholePage';

/** First in the body of each page. */
export async function WholePage() {
  return <script nonce={nonceOf(await headers())} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: WHOLE_PAGE_SCRIPT }} />;
}
