import { buffer } from 'node:stream/consumers';
import { ZipFile } from 'yazl';
import { fromBuffer, type Entry } from 'yauzl';
import type { PutBackView } from '@back-again/contract/doors';
import type { Client } from './harness.ts';

/** Taking everything out over HTTP, and putting it back. */

/** Everything of a client’s account. */
export const zipOf = async (client: Client): Promise<Buffer> => {
  const response = await fetch(`${client.base}/api/everything`, {
    headers: { Cookie: client.cookies },
  });
  expect([response.status, response.headers.get('content-type')]).toEqual([200, 'application/zip']);
  return Buffer.from(await response.arrayBuffer());
};

export const putBack = async (client: Client, zip: Uint8Array<ArrayBuffer>) => {
  const response = await fetch(`${client.base}/api/everything`, {
    method: 'POST',
    headers: { Cookie: client.cookies, Origin: client.base, 'Content-Type': 'application/zip' },
    body: zip,
  });
  const body = (await response.json()) as PutBackView & {
    error: { code: string; where: string; message: string };
  };
  return { status: response.status, body };
};

/** The parts of a zip by their names. */
export function partsOf(zip: Buffer): Promise<Map<string, Buffer>> {
  return new Promise((resolve, reject) => {
    fromBuffer(zip, { lazyEntries: true }, (error, file) => {
      if (error) return reject(error);
      const parts = new Map<string, Buffer>();
      file.on('error', reject);
      file.on('end', () => resolve(parts));
      file.on('entry', (entry: Entry) => {
        file.openReadStream(entry, (why, stream) => {
          if (why) return reject(why);
          buffer(stream).then((bytes) => {
            parts.set(entry.fileName, bytes);
            file.readEntry();
          }, reject);
        });
      });
      file.readEntry();
    });
  });
}

export async function zipped(parts: ReadonlyMap<string, Buffer>): Promise<Buffer<ArrayBuffer>> {
  const zip = new ZipFile();
  for (const [name, bytes] of parts) zip.addBuffer(bytes, name);
  zip.end();
  return Buffer.from(await buffer(zip.outputStream));
}

/** Two zips are the same to the byte; what differs is told by its part. */
export async function expectSame(first: Buffer, second: Buffer): Promise<void> {
  if (first.equals(second)) return;
  const [a, b] = [await partsOf(first), await partsOf(second)];
  for (const [name, bytes] of a)
    expect([name, b.get(name)?.toString()]).toEqual([name, bytes.toString()]);
  expect([...b.keys()]).toEqual([...a.keys()]);
  throw new Error('The zips differ, though their parts do not.');
}
