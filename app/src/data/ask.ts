import type { ApiError } from '@back-again/contract';
import { isLeaving, setLeaving } from './leaving.ts';
import { hearTime } from './local/time.ts';

/** A request to the server. */
export interface Asked {
  url: string;
  method?: string;
  body?: unknown;
  /** What is sent as it is, in the place of a body. */
  bytes?: Uint8Array<ArrayBuffer>;
  /** Whose it is: the server refuses it as anyone else’s. */
  by?: string;
}

/** What came of it: an answer, a refusal in words, or nothing that came from the server. */
export type Answered =
  | { data: unknown }
  | { error: { status: number | 'FETCH_ERROR' | 'PARSING_ERROR'; data?: unknown } };

export type Ask = (asked: Asked) => Promise<Answered>;

const SIGN_OUT: Asked = { url: '/session', method: 'DELETE' };

/** Asks a server at `base`; `more` are headers that a browser would send by itself. */
export function makeAsk(base: string, more: () => Record<string, string> = () => ({})): Ask {
  return async ({ url, method = 'GET', body, bytes, by }) => {
    let response: Response;
    try {
      response = await fetch(`${base}/api${url}`, {
        method,
        headers: {
          ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
          ...(bytes === undefined ? {} : { 'Content-Type': 'application/octet-stream' }),
          ...(by === undefined ? {} : { 'Back-Again-Person': encodeURIComponent(by) }),
          ...more(),
        },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        ...(bytes === undefined ? {} : { body: bytes }),
      });
    } catch {
      return { error: { status: 'FETCH_ERROR' } };
    }
    try {
      const text = await response.text();
      const data: unknown = text ? JSON.parse(text) : undefined;
      if (!response.ok) return { error: { status: response.status, data } };
      const { now } = (data ?? {}) as { now?: unknown };
      if (typeof now === 'string') hearTime(now);
      return { data };
    } catch {
      // A page of something between, or half an answer: nothing that the server said.
      return { error: { status: response.ok ? 'PARSING_ERROR' : response.status } };
    }
  };
}

const plain = makeAsk('');

/**
 * Asks the server of this page. Whoever has signed out without a connection is signed out before
 * anything else is asked.
 */
export const ask: Ask = async (asked) => {
  if (isLeaving()) {
    const left = await plain(SIGN_OUT);
    if ('error' in left) return left;
    setLeaving(false);
  }
  return plain(asked);
};

/** An error of a request in words, with the part of the input that it is about. */
export function errorOf(error: unknown): { code: string; message: string; where: string } {
  const { status, data } = error as { status?: unknown; data?: unknown };
  const known = (data as Partial<ApiError> | undefined)?.error;
  if (known) return known;
  if (status === 'FETCH_ERROR')
    return {
      code: 'offline',
      where: '',
      message: 'No connection. Nothing is lost here: try again.',
    };
  return {
    code: 'unknown',
    where: '',
    message: 'That did not work. Nothing is lost here: try again.',
  };
}
