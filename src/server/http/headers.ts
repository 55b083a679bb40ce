import { randomBytes } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';

/**
 * The Content-Security-Policy and its companions on every answer. Next reads the nonce for its own scripts from the
 * request's header of the same name.
 */
export function setSecurityHeaders(request: IncomingMessage, response: ServerResponse, hubPort: number, secure: boolean): void {
  const nonce = randomBytes(16).toString('base64');
  // Hands are found by WebAssembly, in the pages of hands and nowhere else.
  const compiles = /^\/hands(\/|\?|$)/.test(request.url ?? '') ? " 'wasm-unsafe-eval'" : '';
  const host = request.headers.host!.replace(/:\d+$/, '');
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}'${compiles}`,
    // Ant Design writes its styles into the page.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data:",
    "font-src 'self'",
    // The live line, and the question whether it is there.
    `connect-src 'self' ${secure ? 'wss' : 'ws'}://${host}:${hubPort} ${secure ? 'https' : 'http'}://${host}:${hubPort}`,
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
  request.headers['content-security-policy'] = policy;
  response.setHeader('Content-Security-Policy', policy);
  response.setHeader('X-Content-Type-Options', 'nosniff');
  response.setHeader('Referrer-Policy', 'no-referrer');
}

/** The nonce of a request's own scripts, as the policy above has it. */
export function nonceOf(headers: Headers): string | undefined {
  return /'nonce-([^']+)'/.exec(headers.get('content-security-policy') ?? '')?.[1];
}
