import { dictionary } from '@zxcvbn-ts/language-common';
import { CoreError } from '@back-again/core';

/** So many are refused: of the commonest ones those that are long enough to be taken at all. */
const MOST = 1000;
const LEAST = 10;

/** The commonest passwords as the dataset of zxcvbn lists them, the commonest first. */
const COMMONEST: ReadonlySet<string> = new Set(
  dictionary.passwords.filter((word) => word.length >= LEAST).slice(0, MOST),
);

/**
 * Refuses what is tried first by whoever guesses (OWASP ASVS 5.0, 6.2.4), case of no matter.
 * @throws CoreError `password.common`
 */
export function needUncommon(password: string): void {
  if (COMMONEST.has(password.trim().toLowerCase()))
    throw new CoreError(
      'password.common',
      'password',
      'That is one of the commonest passwords, and among the first that are tried. Take another one.',
    );
}
