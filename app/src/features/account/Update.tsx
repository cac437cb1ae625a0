import { Note } from '../../ui/Note.tsx';

/** Offers the newer program that is ready here; it is never put in place by itself. */
export function Update({ onTake }: { onTake: () => void }) {
  return (
    <Note
      words="A newer Back Again is ready on this device."
      action={{ label: 'Use it now', onPress: onTake }}
    />
  );
}
