import type { RequestHandler } from 'express';
import type { Config } from '../config.ts';
import { HttpError } from './errors.ts';

const SAFE = ['GET', 'HEAD', 'OPTIONS'];

/**
 * A request that changes something comes from this very site (OWASP, CSRF prevention: verifying origin
 * with standard headers; Fetch Metadata): both Sec-Fetch-Site and Origin say so, as far as they are
 * there. With a cookie one of them has to be.
 */
export function sameOrigin({ publicUrl }: Pick<Config, 'publicUrl'>): RequestHandler {
  const wanted = publicUrl === null ? null : new URL(publicUrl).origin;
  return (request, _response, next) => {
    if (SAFE.includes(request.method)) return next();
    const { origin, host, cookie, 'sec-fetch-site': site } = request.headers;
    const isHere =
      origin === undefined ||
      (wanted === null ? URL.canParse(origin) && new URL(origin).host === host : origin === wanted);
    if (!isHere || (site !== undefined && site !== 'same-origin'))
      throw new HttpError(403, 'origin.other', 'This request came from another site.');
    if (cookie !== undefined && origin === undefined && site === undefined)
      throw new HttpError(
        403,
        'origin.none',
        'This request does not say where it came from: send its Origin.',
      );
    next();
  };
}

/**
 * With SECURE=1 a proxy says that a request came over HTTPS. Where it does not, cookies would be
 * dropped in silence: that is said instead.
 */
export function overHttps({ secure }: Pick<Config, 'secure'>): RequestHandler {
  return (request, _response, next) => {
    if (!secure || request.secure) return next();
    throw new HttpError(
      400,
      'server.insecure',
      'SECURE=1 is set, but no trusted proxy said that this request came over HTTPS (X-Forwarded-Proto). Put a proxy with HTTPS before the server, name its address in PROXY, or start it without SECURE=1.',
    );
  };
}
