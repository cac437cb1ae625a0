import { type CoreError } from '../errors.ts';
import { MOST_FILE, checkFile, isPicture, isShown, mediaType, sizeText } from './files.ts';

const FILE = { id: 'a', name: 'hive one.png', type: 'image/png', size: 1200 };
const codeOf = (value: unknown) => {
  try {
    checkFile(value);
    return null;
  } catch (error) {
    return (error as CoreError).code;
  }
};

test('a file has a name without a path, and something in it', () => {
  expect(checkFile(FILE)).toEqual(FILE);
  expect(checkFile({ ...FILE, more: 1, type: 'IMAGE/PNG; q=1' })).toEqual(FILE);
  expect(checkFile({ ...FILE, size: MOST_FILE }).size).toBe(MOST_FILE);
  for (const name of [
    '../x',
    'a/b',
    'a\\b',
    '..',
    '.',
    '',
    ' a',
    'a\n',
    'a\u202egnp.exe',
    'x'.repeat(201),
    7,
  ])
    expect([name, codeOf({ ...FILE, name })]).toEqual([name, 'file.name']);
  for (const size of [0, -1, 1.5, '7', null]) expect(codeOf({ ...FILE, size })).toBe('file.empty');
  expect(codeOf({ ...FILE, size: 11 * 1024 * 1024 })).toBe('file.big');
  expect(codeOf({ ...FILE, id: '' })).toBe('file.id');
  expect(codeOf(null)).toBe('file.id');
});

test('pictures, PDF and plain text alone are shown; what is no media type is none', () => {
  expect(['image/png', 'image/webp', 'application/pdf', 'text/plain'].every(isShown)).toBe(true);
  expect(['image/svg+xml', 'text/html', 'application/xhtml+xml', ''].some(isShown)).toBe(false);
  expect([isPicture('image/gif'), isPicture('application/pdf')]).toEqual([true, false]);
  expect(mediaType('text/html\r\nX: y')).toBe('');
  expect([mediaType('nonsense'), mediaType(undefined)]).toEqual(['', '']);
});

test('how long a file is, in words', () => {
  expect([1, 999, 1000, 310_400, 999_499, 999_500, 2_440_000].map(sizeText)).toEqual([
    '1 bytes',
    '999 bytes',
    '1 KB',
    '310 KB',
    '999 KB',
    '1.0 MB',
    '2.4 MB',
  ]);
});
