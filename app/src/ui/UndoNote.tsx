import { Note } from './Note.tsx';

/** What was done, with what takes it back. */
export function UndoNote({ words, onUndo }: { words: string; onUndo: () => void }) {
  return <Note words={words} action={{ label: 'Undo', name: `Undo: ${words}`, onPress: onUndo }} />;
}
