import { quoted, tokensOf, type Token } from '../grammar/tokens.ts';
import { LEADS } from '../grammar/words.ts';

/** Words of a person’s own as a sentence has them. */

const PLAIN = /^\p{L}[\p{L}\p{N}'’-]*(?: \p{L}[\p{L}\p{N}'’-]*)*$/u;
const ARTICLES = new Set(['a', 'an', 'the']);
/** Words that end such words, join them to others, or begin a clause of their own. */
const READ = new Set(
  'and or in from then with as for steps step ask me whether if which how every takes remind until starting belongs tagged opens open can missed stays each comes come paused counted counting once just one skip reminder reminders it is very important of less not someday some i take taking may about up on at by to until till within later afterwards has no'.split(
    ' ',
  ),
);

const isRead = ({ low }: Token, next: Token | undefined) =>
  READ.has(low) || (LEADS.has(low) && !(ARTICLES.has(low) && next && !LEADS.has(next.low)));

/** As it stands; in quotes where a sentence would read more in it. */
export function itemText(text: string): string {
  const tokens = tokensOf(text);
  return PLAIN.test(text) && !tokens.some((token, i) => isRead(token, tokens[i + 1]))
    ? text
    : quoted(text);
}

/** A name: of one word it stands as it is; another in quotes, so that one sees where it ends. */
export const nameText = (name: string): string =>
  /^\p{L}[\p{L}\p{N}]*$/u.test(name) ? name : quoted(name);
