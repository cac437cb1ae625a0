import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { generate } from 'selfsigned';

/** A key, and a certificate of this machine that speaks for itself (X.509, RFC 5280), as files in a folder. */
export async function certificateIn(folder: string, name: string) {
  const made = await generate([{ name: 'commonName', value: name }], {
    keySize: 2048,
    extensions: [{ name: 'subjectAltName', altNames: [{ type: 7, ip: '127.0.0.1' }] }],
  });
  const files = { key: join(folder, `${name}.key`), cert: join(folder, `${name}.pem`) };
  writeFileSync(files.key, made.private);
  writeFileSync(files.cert, made.cert);
  return files;
}
