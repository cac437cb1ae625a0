import { markedText } from '@back-again/core';
import { Words, type WordsProps } from './Words.tsx';
import { useLook } from './look.ts';

interface MarkedProps extends Omit<WordsProps, 'children'> {
  text: string;
  /** What is looked for. */
  wanted: readonly string[];
  /** How what was found stands out, beside its ground. */
  found: Partial<Pick<WordsProps, 'tint' | 'weight'>>;
}

/** A text in which what is looked for is marked. */
export function Marked({ text, wanted, found, style, ...words }: MarkedProps) {
  const look = useLook();
  return (
    <Words {...words} style={style}>
      {markedText(text, wanted).map(([piece, isFound], i) => (
        <Words
          key={i}
          {...words}
          {...(isFound ? found : {})}
          style={[style, isFound ? { backgroundColor: look.slateFill } : null]}
        >
          {piece}
        </Words>
      ))}
    </Words>
  );
}
