import type { Reading } from '@back-again/core/reading';
import { Note } from '../../ui/Note.tsx';
import { Words } from '../../ui/Words.tsx';

/** What is wrong with the sentence, and what in it was not understood. */
export function Unsound({ reading, typedSome }: { reading: Reading; typedSome: boolean }) {
  const { problems, notUnderstood, series } = reading;
  if (!typedSome) return null;
  const said = (text: string) => reading.sources.some((source) => source.text === text);
  return (
    <>
      {problems.map(({ code, where, message }) => (
        <Note
          key={code + message}
          words={
            <>
              {said(where) ? <Words size={15} weight={650}>{`“${where}”. `}</Words> : null}
              {message}
            </>
          }
        />
      ))}
      {problems.length ? (
        <Words size={15} tint="soft">
          Once that is mended, the sentence and its next times show here. What you typed is kept.
        </Words>
      ) : null}
      {!problems.length && !series.title ? (
        <Note words="What is it? The words say when, but not what." />
      ) : null}
      {notUnderstood.length ? (
        <Note
          words={`Not understood: ${notUnderstood.map((words) => `“${words}”`).join(', ')}. It stays in the title.`}
        />
      ) : null}
    </>
  );
}
