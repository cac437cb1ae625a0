import type { SentencePart, Series } from '@back-again/core';
import { sayParts, type PartKind } from '@back-again/core/reading';
import { Text } from 'react-native';
import { Words } from '../../ui/Words.tsx';
import { FONT, useLook } from '../../ui/look.ts';
import type { Person } from './edit.ts';

/** The controls that a part of the sentence opens. */
export type PanelName = Exclude<PartKind, 'pauses'>;

const PANELS: Partial<Record<SentencePart['kind'], PanelName>> = {
  repeat: 'repeat',
  mode: 'repeat',
  start: 'start',
  at: 'at',
  ends: 'ends',
  closed: 'closed',
  late: 'late',
  opens: 'opens',
  remind: 'remind',
  takes: 'takes',
  place: 'place',
};

export const PANEL_NAMES: Record<PanelName, string> = {
  repeat: 'How it comes back',
  start: 'First on',
  at: 'Time of day',
  ends: 'Until when',
  closed: 'When that day is closed',
  late: 'When it is left unfinished',
  opens: 'When it opens',
  remind: 'Reminders',
  takes: 'How long it takes',
  place: 'Where it belongs',
};

interface SentenceProps {
  series: Series;
  person: Person;
  open: PanelName | null;
  onOpen: (panel: PanelName) => void;
}

/** The definition as it was understood: one sentence, whose parts are controls. */
export function Sentence({ series, person, open, onOpen }: SentenceProps) {
  return (
    // Each line is a thumb high, for the parts that can be touched.
    <Words size={18} style={{ lineHeight: 48 }} testID="understood">
      {withTails(sayParts(series, person.today, person)).map((part, i) => {
        const panel = PANELS[part.kind];
        if (panel)
          return (
            <PartLink
              key={i}
              text={part.text}
              tail={part.tail}
              name={`${part.text}. Change: ${PANEL_NAMES[panel].toLowerCase()}`}
              expanded={open === panel}
              onPress={() => onOpen(panel)}
            />
          );
        return (
          <Words
            key={i}
            size={18}
            weight={part.kind === 'title' ? 700 : 400}
            style={{ lineHeight: 48 }}
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
    const given = before && PANELS[before.kind] ? part.text.replace(/^[,.]/u, '') : part.text;
    return { ...part, text: given, tail: PANELS[part.kind] ? sign : '' };
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
      style={{ fontFamily: FONT, color: look.ink }}
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
