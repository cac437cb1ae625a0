/** How files of the types that are shown begin. */

const text = (latin1: string) => Buffer.from(latin1, 'latin1');

/** By its type: what stands where, all of one of these (the signatures of the formats’ own specifications). */
const SIGNS: Record<string, readonly (readonly [at: number, sign: Buffer])[][]> = {
  // PNG, third edition, §5.2.
  'image/png': [[[0, text('\x89PNG\r\n\x1a\n')]]],
  // ITU-T T.81, annex B.1.1.3: SOI, and the first byte of the marker after it.
  'image/jpeg': [[[0, text('\xff\xd8\xff')]]],
  // RFC 9649 §2.4.
  'image/webp': [
    [
      [0, text('RIFF')],
      [8, text('WEBP')],
    ],
  ],
  // GIF89a specification, §17.
  'image/gif': [[[0, text('GIF87a')]], [[0, text('GIF89a')]]],
  // ISO 32000-1 §7.5.2.
  'application/pdf': [[[0, text('%PDF-')]]],
};

/** Whether what is in a file begins as its type says; text is what has no NUL and is UTF-8. */
export function isWhatItIsSaid(type: string, bytes: Buffer): boolean {
  if (type === 'text/plain') return !bytes.includes(0) && isUtf8(bytes);
  const signs = SIGNS[type];
  if (!signs) return false;
  return signs.some((all) =>
    all.every(([at, sign]) => bytes.subarray(at, at + sign.length).equals(sign)),
  );
}

function isUtf8(bytes: Buffer): boolean {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}
