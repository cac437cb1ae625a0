import { controlOf, type Definition, type SentencePart } from '@back-again/core';
import { sayParts } from '@back-again/core/reading';
import { Text } from 'react-native';
import { Words } from '../../ui/Words.tsx';
import { FONT, useLook } from '../../ui/look.ts';
import type { Person } from './edit.ts';

/** The stretch of a sentence whose controls are open. */
export type PanelName = string;

/** The controls that a part of the sentence opens; null where it has none. */
function panelOf(kind: SentencePart['kind']): PanelName | null {
  const name = kind === 'mode' ? 'repeat' : kind;
  return controlOf(name) ? name : null;
}

/** What the controls of a part are called. */
export const panelTitle = (panel: PanelName) => controlOf(panel)?.title ?? '';

interface SentenceProps {
  series: Definition;
  person: Person;
  open: PanelName | null;
  onOpen: (panel: PanelName) => void;
}

/** The definition as it was understood: one sentence, whose parts are controls. */
export function Sentence({ series, person, open, onOpen }: SentenceProps) {
  return (
    <Words size={18} style={{ lineHeight: LINE }} testID="understood">
      {withTails(sayParts(series, person.today, person)).map((part, i) => {
        const panel = panelOf(part.kind);
        if (panel)
          return (
            <PartLink
              key={i}
              text={part.text}
              tail={part.tail}
              name={`${part.text}. Change: ${panelTitle(panel).toLowerCase()}`}
              expanded={open === panel}
              onPress={() => onOpen(panel)}
            />
          );
        return (
          <Words
            key={i}
            size={18}
            weight={part.kind === 'title' ? 700 : 400}
            style={{ lineHeight: LINE }}
          >
            {part.text}
          </Words>
        );
      })}
    </Words>
  );
}

/** A sign that follows a control goes with it, so that it never begins a line. */
function withTails(parts: readonly SentencePart[]): (SentencePart & { tail: string })[] {
  return parts.map((part, i) => {
    const sign = /^[,.]/u.exec(parts[i + 1]?.text ?? '')?.[0] ?? '';
    const before = parts[i - 1];
    const given = before && panelOf(before.kind) ? part.text.replace(/^[,.]/u, '') : part.text;
    return { ...part, text: given, tail: panelOf(part.kind) ? sign : '' };
  });
}

interface PartLinkProps {
  text: string;
  /** A sign that stands behind it. */
  tail?: string;
  name: string;
  expanded: boolean;
  onPress: () => void;
}

/** Web attributes and styles that the types of React Native lack. */
const FOCUSABLE = { tabIndex: 0 } as object;
const UNDERLINED = {
  textDecorationLine: 'underline',
  textUnderlineOffset: 6,
} as const;

/** The lines of a sentence stand as close as those of other text that has room. */
export const LINE = 36;
/** What can be touched reaches beyond its line, by so much above and below; the margins give that back, so that no line is moved. */
const REACH = 12;

/** An underlined part inside running text. */
export function PartLink({ text, tail = '', name, expanded, onPress }: PartLinkProps) {
  const look = useLook();
  return (
    <Text
      role="button"
      aria-label={name}
      aria-expanded={expanded}
      {...FOCUSABLE}
      onPress={onPress}
      style={{ fontFamily: FONT, color: look.ink, paddingVertical: REACH, marginVertical: -REACH }}
    >
      <Text
        style={[
          UNDERLINED,
          {
            textDecorationColor: expanded ? look.ink : look.slate,
            textDecorationThickness: expanded ? 4 : 2,
            fontWeight: '650',
          } as object,
        ]}
      >
        {text}
      </Text>
      {tail}
    </Text>
  );
}
