import type { IncomingMessage, ServerResponse } from 'node:http';
import expressStaticGzip from 'express-static-gzip';

/** Where pages ask for what they are made of. */
const ROOT = '/_next/static';
/** A file that changes has another name. */
const FOR_EVER = '1y';

/**
 * Answers what pages load (scripts, styles, letters) from the files as they were built and compressed, past Next, which would compress
 * them anew for everybody; whatever is no such file goes to `otherwise`.
 * @param folder where they lie, each with its `.br` and `.gz` beside it where that is smaller
 */
export function pageFiles(folder: string): (request: IncomingMessage, response: ServerResponse, otherwise: () => void) => void {
  const send = expressStaticGzip(folder, { index: false, enableBrotli: true, orderPreference: ['br', 'gzip'], serveStatic: { index: false, redirect: false, immutable: true, maxAge: FOR_EVER } });
  return (request, response, otherwise) => {
    const url = request.url!;
    const path = url.split('?', 1)[0]!;
    if (!path.startsWith(`${ROOT}/`) || (request.method !== 'GET' && request.method !== 'HEAD')) return otherwise();
    // The package is written for servers that tell requests their `path`.
    const asked = Object.assign(request, { url: url.slice(ROOT.length), path: path.slice(ROOT.length) });
    send(asked, response, () => {
      request.url = url;
      // It said how it would be sent before it looked whether it is still there.
      for (const name of ['Content-Encoding', 'Content-Type', 'Vary']) response.removeHeader(name);
      otherwise();
    });
  };
}
