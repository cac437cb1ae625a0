import express, { type Request, type RequestHandler } from 'express';
import { HttpError } from './errors.ts';

/** So deep may lists and objects lie in each other. */
const MOST_DEEP = 50;
const changes = (method: string) => !['GET', 'HEAD', 'OPTIONS'].includes(method);

/** A piece of a file comes as it is; what is said to be that no page of another site can send either. */
const isPiece = (request: Request) =>
  request.method === 'PUT' &&
  request.path.startsWith('/files/') &&
  request.headers['content-type'] === 'application/octet-stream';

/** A zip with everything comes as it is, and is kept in a file; what comes in is longer than other bodies. */
const isZip = (request: Request) =>
  request.method === 'POST' &&
  request.path === '/everything' &&
  request.headers['content-type'] === 'application/zip';
const isLong = (request: Request) => request.method === 'POST' && request.path === '/take-in';

/** Bodies are JSON, said to be JSON, and not compressed. */
const onlyJson: RequestHandler = (request, _response, next) => {
  const { 'content-type': type, 'content-length': length } = request.headers;
  const hasBody = (length !== undefined && length !== '0') || request.headers['transfer-encoding'];
  const isJson = /^application\/json\s*(;|$)/iu.test(type ?? '');
  // What is not JSON any page of another site could send (Fetch standard, CORS-safelisted request).
  if (
    changes(request.method) &&
    !isJson &&
    !isPiece(request) &&
    !isZip(request) &&
    (hasBody || request.method !== 'DELETE')
  )
    throw new HttpError(415, 'body.type', 'What changes something is sent as JSON.', 'body');
  next();
};

/** Text that the database can keep, and lists that are not too deep. */
export const checkBody: RequestHandler = (request, _response, next) => {
  const left: { value: unknown; path: string; depth: number }[] = [
    { value: request.body, path: '', depth: 0 },
  ];
  if (Buffer.isBuffer(request.body)) return next();
  for (let it = left.pop(); it; it = left.pop()) {
    const { value, path, depth } = it;
    if (typeof value === 'string') checkText(value, path);
    if (typeof value !== 'object' || value === null) continue;
    if (depth >= MOST_DEEP)
      throw new HttpError(400, 'body.deep', 'The body is nested too deep.', 'body');
    for (const [key, inner] of Object.entries(value)) {
      checkText(key, path);
      left.push({ value: inner, path: path ? `${path}.${key}` : key, depth: depth + 1 });
    }
  }
  next();
};

/** Lone surrogates are no characters (Unicode standard §3.9, D92), and NUL ends a text elsewhere. */
function checkText(text: string, where: string): void {
  if (text.isWellFormed() && !text.includes('\0')) return;
  const path = where.isWellFormed() ? where : '';
  throw new HttpError(
    400,
    'text.form',
    'There is something in this text that is no character.',
    path,
  );
}

/** Reads the body of a request that changes something. */
export const readBody: RequestHandler[] = [
  onlyJson,
  express.json({
    limit: '64kb',
    strict: false,
    inflate: false,
    type: (request) =>
      !isPiece(request as Request) && !isZip(request as Request) && !isLong(request as Request),
  }),
  checkBody,
];
