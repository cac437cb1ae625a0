import { CoreError } from '../errors.ts';

/** What is known of a file that belongs to a time; what is in it is kept elsewhere. */

export interface KeptFile {
  id: string;
  /** 1 to 200 characters, without a path. */
  name: string;
  /** As it was said to be (a media type, RFC 6838 §4.2), in small letters; empty: not known. */
  type: string;
  /** In bytes, from 1. */
  size: number;
}

/** So many bytes a file has at most. */
export const MOST_FILE = 10 * 1024 * 1024;
/** So many bytes the files of a person have together at most. */
export const MOST_FILES = 200 * 1024 * 1024;
/** So many files belong to one time at most. */
export const MOST_OF_TIME = 20;
const MOST_FILE_NAME = 200;

const PICTURES: readonly string[] = ['image/png', 'image/jpeg', 'image/webp', 'image/gif'];
const SAFE: readonly string[] = [...PICTURES, 'application/pdf', 'text/plain'];

/** Whether a file of this type may be shown where it stands; all else is given to be kept. */
export const isShown = (type: string): boolean => SAFE.includes(type);
/** Whether it is a picture that is shown small. */
export const isPicture = (type: string): boolean => PICTURES.includes(type);

const isFileName = (name: unknown): name is string =>
  typeof name === 'string' &&
  name.trim() === name &&
  name.length > 0 &&
  name.length <= MOST_FILE_NAME &&
  name !== '.' &&
  name !== '..' &&
  !/[\p{Cc}\p{Cf}/\\]/u.test(name);

/**
 * Checks the name of a file.
 * @throws CoreError `file.name`
 */
export function checkFileName(name: unknown, where = 'name'): string {
  if (isFileName(name)) return name;
  throw new CoreError(
    'file.name',
    where,
    `A file has a name of 1 to ${MOST_FILE_NAME} characters, without a path.`,
  );
}

/**
 * Checks how long a file is, in bytes.
 * @throws CoreError `file.empty`, `file.big`
 */
export function checkFileSize(size: unknown, where = 'size'): number {
  if (!Number.isInteger(size) || (size as number) < 1)
    throw new CoreError('file.empty', where, 'There is nothing in this file.');
  if ((size as number) > MOST_FILE)
    throw new CoreError('file.big', where, 'A file has 10 MB at most.');
  return size as number;
}

/** A media type as it is said, in small letters and without parameters; empty where it is none. */
export function mediaType(said: unknown): string {
  const type = typeof said === 'string' ? said.split(';')[0]!.trim().toLowerCase() : '';
  return /^[a-z0-9!#$&^_.+-]{1,60}\/[a-z0-9!#$&^_.+-]{1,60}$/u.test(type) ? type : '';
}

/**
 * Checks what is said of a file.
 * @throws CoreError `file.…`
 */
export function checkFile(value: unknown, where = 'file'): KeptFile {
  const { id, name, type, size } = (value ?? {}) as Partial<Record<keyof KeptFile, unknown>>;
  if (typeof id !== 'string' || !id)
    throw new CoreError('file.id', `${where}.id`, 'A file has an id.');
  return {
    id,
    name: checkFileName(name, `${where}.name`),
    type: mediaType(type),
    size: checkFileSize(size, `${where}.size`),
  };
}

/** “900 bytes”, “310 KB”, “2.4 MB”: in thousands (IEC 80000-13 keeps these prefixes for powers of ten). */
export function sizeText(bytes: number): string {
  if (bytes < 1000) return `${bytes} bytes`;
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} KB`;
  return `${(bytes / 1_000_000).toFixed(1)} MB`;
}
