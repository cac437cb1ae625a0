import { Words } from './Words.tsx';

/** Why a form was not taken, said aloud too; nothing where it was. */
export const Failure = ({ words }: { words: string | null | undefined }) =>
  words ? (
    <Words weight={650} live>
      {words}
    </Words>
  ) : null;
