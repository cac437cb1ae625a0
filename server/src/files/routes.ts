import express, { Router } from 'express';
import { fileSchema } from '@back-again/contract';
import { actorOf, type Context } from '../http/context.ts';
import { checked } from '../http/errors.ts';
import { PIECE, beginFile, readFile, takePiece } from './kept.ts';

/** Files are sent in pieces, and read whole. */
export function fileRoutes(context: Context): Router {
  const { db } = context;
  const router = Router();
  router.post('/files', async (request, response) => {
    const { userId, now } = actorOf(context, response);
    response.json(await beginFile(db, userId, now, checked(fileSchema, request.body)));
  });
  router.put(
    '/files/:id/:piece',
    express.raw({ type: 'application/octet-stream', limit: PIECE, inflate: false }),
    async (request, response) => {
      const { userId } = actorOf(context, response);
      const { id, piece } = request.params;
      const n = /^\d{1,4}$/u.test(piece) ? Number(piece) : -1;
      const bytes: unknown = request.body;
      const given = Buffer.isBuffer(bytes) ? bytes : Buffer.alloc(0);
      response.json(await takePiece(db, userId, id, n, given));
    },
  );
  router.get('/files/:id', async (request, response) => {
    const { userId } = actorOf(context, response);
    const { name, type, sum, bytes } = await readFile(db, userId, request.params.id);
    response.set({
      'Content-Type': type === 'text/plain' ? 'text/plain; charset=utf-8' : (type ?? DOWNLOAD),
      // RFC 6266 §4.3, RFC 8187: a name in any letters.
      'Content-Disposition': `${type ? 'inline' : 'attachment'}; filename*=UTF-8''${encoded(name)}`,
      'X-Content-Type-Options': 'nosniff',
      // Whatever it is, nothing in it runs, and it asks for nothing.
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; img-src 'self'",
      // Who may see it is asked each time.
      'Cache-Control': 'private, no-cache',
      ETag: `"${sum}"`,
    });
    response.send(bytes);
  });
  return router;
}

const DOWNLOAD = 'application/octet-stream';
const encoded = (name: string) =>
  encodeURIComponent(name).replace(
    /['()*]/gu,
    (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`,
  );
