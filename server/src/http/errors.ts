import type { ErrorRequestHandler, RequestHandler, Response } from 'express';
import { ValidationError, type Schema } from 'yup';
import { CoreError } from '@back-again/core';
import type { ApiError } from '@back-again/contract';
import { noteRefusal } from '../account/events.ts';
import { isAway, isFull } from '../db/database.ts';
import type { Log } from '../log.ts';

/** An answer that is not a success, with its status. */
export class HttpError extends Error {
  readonly status: number;
  readonly code: string;
  readonly where: string;
  /** In so many seconds it may be tried again. */
  retryAfter: number | null = null;

  constructor(status: number, code: string, message: string, where = '') {
    super(message);
    this.status = status;
    this.code = code;
    this.where = where;
  }
}

/** Codes of the core that are not simply bad input. */
const STATUS: Record<string, number> = {
  'machine.long': 422,
  'machine.behind': 503,
  'session.busy': 429,
  'todo.broken': 422,
  'todo.none': 404,
  'action.none': 404,
  'place.none': 404,
  'file.none': 404,
  'file.big': 413,
  'file.many': 409,
  'file.other': 409,
  'above.full': 409,
  'link.none': 404,
  'door.none': 404,
  'door.many': 409,
  'device.none': 404,
  'device.many': 409,
  'name.taken': 409,
  'todo.taken': 409,
  'todo.here': 409,
  'action.id': 409,
  'time.none': 409,
  'undo.conflict': 409,
  'undo.old': 409,
  'when.old': 409,
  'when.conflict': 409,
  'when.moved': 409,
};

/**
 * Checks input by a schema of the contract and gives it back.
 * @throws HttpError 400 with what is wrong and where
 */
export function checked<T>(schema: Schema<T>, input: unknown): T {
  if (typeof input !== 'object' || input === null || Array.isArray(input))
    throw new HttpError(400, 'body.form', 'The body must be a JSON object.', 'body');
  try {
    return schema.validateSync(input, { abortEarly: true });
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    const code =
      typeof error.params?.code === 'string' ? error.params.code : `input.${error.type ?? 'wrong'}`;
    throw new HttpError(400, code, error.message, error.path ?? '');
  }
}

function asHttp(error: unknown): HttpError | null {
  if (error instanceof HttpError) return error;
  if (error instanceof CoreError)
    return new HttpError(STATUS[error.code] ?? 400, error.code, error.message, error.where);
  const type = (error as { type?: string }).type;
  if (type === 'entity.parse.failed')
    return new HttpError(400, 'body.json', 'The body is not JSON.', 'body');
  if (type === 'entity.too.large')
    return new HttpError(413, 'body.large', 'The body is too large.', 'body');
  if (type?.startsWith('encoding') || type?.startsWith('charset'))
    return new HttpError(
      415,
      'body.encoding',
      'The body is in an encoding that is not read.',
      'body',
    );
  if (error instanceof URIError)
    return new HttpError(400, 'path.form', 'The address is not well formed.', 'path');
  if (isFull(error)) return FULL();
  if (isAway(error)) return SLOW();
  return null;
}

/** Answers every error with a code, words and a place; what was not foreseen is logged and says nothing of itself. */
export function answerErrors(log: Log): ErrorRequestHandler {
  return (error, request, response, next) => {
    // It was answered already that it takes too long.
    if (response.locals.late && response.headersSent) return;
    if (response.headersSent) {
      next(error);
      return;
    }
    const known = asHttp(error);
    const { path = '-' } = (request.route ?? {}) as { path?: string };
    if (known) noteRefusal(log, known.code, path);
    if (!known || known.status === 507)
      log.error({ err: error, method: request.method }, 'a request failed');
    answerWith(
      response,
      known ??
        new HttpError(500, 'server.failed', 'Something went wrong here. Nothing was changed.'),
    );
  };
}

/** Answers with what is wrong. */
export function answerWith(
  response: Response,
  { status, code, message, where, retryAfter }: HttpError,
): void {
  const body: ApiError = { error: { code, message, where } };
  if (retryAfter !== null) response.set('Retry-After', String(retryAfter));
  response.status(status).json(body);
}

/** The database does not answer. */
export const SLOW = () =>
  new HttpError(
    503,
    'server.slow',
    'The database does not answer. What you did may still be kept: try again in a moment.',
  );

/** RFC 4918 §11.5. */
const FULL = () =>
  new HttpError(
    507,
    'server.full',
    'There is no room left where this program keeps things. Nothing was changed: tell whoever runs it.',
  );

export const notFound: RequestHandler = () => {
  throw new HttpError(404, 'route.none', 'There is nothing at this address.');
};
