import { dictionary } from '@zxcvbn-ts/language-common';
import { CoreError } from '@back-again/core';

/** So many are refused: of the commonest ones those that are long enough to be taken at all. */
const MOST = 3000;
const LEAST = 10;
/** So many letters are left of one once words of this place are taken out, or it is nothing else. */
const LEAST_OF_ONES_OWN = 4;

/** The commonest passwords as the dataset of zxcvbn lists them, the commonest first. */
const COMMONEST: ReadonlySet<string> = new Set(
  dictionary.passwords.filter((word) => word.length >= LEAST).slice(0, MOST),
);

/**
 * Refuses what is tried first by whoever guesses (OWASP ASVS 5.0, 6.2.4), case of no matter.
 * @throws CoreError `password.common`, `password.own`
 */
export function needUncommon(password: string, address: string): void {
  const plain = password.trim().toLowerCase();
  const [own = ''] = address.split('@');
  // ASVS 6.2.11: words of this place, and of this very account.
  const words = ['back again', 'backagain', 'back-again', own, address].filter(Boolean);
  const rest = words.reduce((left, word) => left.replaceAll(word, ''), plain);
  if (rest.replace(/[\d\s\p{P}]/gu, '').length < LEAST_OF_ONES_OWN && rest !== plain)
    throw new CoreError(
      'password.own',
      'password',
      'That is little more than your address or the name of this program. Take another one.',
    );
  if (COMMONEST.has(plain))
    throw new CoreError(
      'password.common',
      'password',
      'That is one of the commonest passwords, and among the first that are tried. Take another one.',
    );
}
