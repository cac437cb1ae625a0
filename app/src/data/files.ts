import {
  CoreError,
  checkFileName,
  checkFileSize,
  isPicture,
  mediaType,
  type KeptFile,
} from '@back-again/core';
import { useEffect, useState } from 'react';
import { useLast, type Does } from './act.ts';
import { newId } from './ids.ts';
import { useRoom } from './room.tsx';
import { useLocal } from './todos.ts';

/** Files of times: kept on this device until they are sent. */

/** Where a file is read: as a picture, or in a window of its own. */
export const fileUrl = (id: string) => `/api/files/${id}`;

/** SHA-256 (FIPS 180-4) in hexadecimal digits; null where the page is not served securely. */
async function sumOf(bytes: Uint8Array<ArrayBuffer>): Promise<string | null> {
  const { subtle } = globalThis.crypto as Partial<Crypto>;
  if (!subtle) return null;
  const sum = new Uint8Array(await subtle.digest('SHA-256', bytes));
  return Array.from(sum, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** A name without what no name has, which devices put into some all the same. */
const cleanName = (name: string) =>
  name
    .replace(/[\p{Cc}\p{Cf}/\\]/gu, '')
    .trim()
    .slice(0, 200);

/** A file as the browser gives it. */
export interface GivenFile {
  name: string;
  type: string;
  size: number;
  arrayBuffer(): Promise<ArrayBuffer>;
}

/** Attaches files to a time and takes them away, with one undo for the last of these. */
export function useFiling(does: Does, of: { todo: string; slot: string }) {
  const { sync } = useRoom();
  const { pending } = useLocal();
  const [failure, setFailure] = useState<string | null>(null);
  const { last, setLast, undo } = useLast(does);
  const waiting = new Set(
    pending.flatMap(({ action }) => (action.do === 'file' ? [action.file.id] : [])),
  );
  const attach = async (given: GivenFile) => {
    try {
      const name = checkFileName(cleanName(given.name));
      const size = checkFileSize(given.size);
      const file: KeptFile = { id: newId(), name, type: mediaType(given.type), size };
      const bytes = new Uint8Array(await given.arrayBuffer());
      await sync.holdFile(file.id, bytes, await sumOf(bytes));
      const did = does({ do: 'file', ...of, file }, () => `${name} is attached`);
      setFailure(null);
      if (did) setLast({ action: did.id, words: `${name} is attached.` });
    } catch (error) {
      // What was chosen may be gone, or may not be read.
      setFailure(error instanceof CoreError ? error.message : 'This file cannot be read.');
    }
  };
  const takeAway = ({ id, name }: KeptFile) => {
    const did = does({ do: 'unfile', ...of, file: id }, () => `${name} is taken away`);
    if (did) setLast({ action: did.id, words: `${name} is taken away.` });
  };
  return { attach, takeAway, waiting, failure, last, undo };
}

/** Where a picture is shown from: from here until it is sent. */
export function usePicture({ id, type }: KeptFile, waits: boolean): string | null {
  const { sync } = useRoom();
  const [held, setHeld] = useState<string | null>(null);
  useEffect(() => {
    if (!waits || !isPicture(type)) return;
    let isLeft = false;
    void sync.heldFile(id).then((it) => {
      if (!it || isLeft) return;
      const reader = new FileReader();
      reader.onload = () => {
        if (!isLeft) setHeld(reader.result as string);
      };
      reader.readAsDataURL(new Blob([it.bytes], { type }));
    });
    return () => {
      isLeft = true;
    };
  }, [sync, id, type, waits]);
  if (!isPicture(type)) return null;
  return held ?? (waits ? null : fileUrl(id));
}
