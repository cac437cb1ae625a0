import ListItem from '@rneui/themed/dist/ListItem';
import type { ReactNode } from 'react';
import { Rule } from './Rule.tsx';
import { Words } from './Words.tsx';
import { THUMB } from './look.ts';

interface ListRowProps {
  children: ReactNode;
  /** The first has no line above. */
  first: boolean;
  onPress: () => void;
  /** What a screen reader says of it. */
  name: string;
  role?: 'button' | 'checkbox';
  checked?: boolean;
  background?: string;
  /** How far its content stands from the edge, in px. */
  inset?: number;
}

/** A row of a list. */
export function ListRow({
  children,
  first,
  onPress,
  name,
  role = 'button',
  checked,
  background = 'transparent',
  inset = 0,
}: ListRowProps) {
  const spoken = { role, 'aria-label': name, 'aria-checked': checked } as object;
  return (
    <>
      {first ? null : <Rule />}
      <ListItem
        onPress={onPress}
        {...spoken}
        pad={12}
        containerStyle={{
          paddingHorizontal: inset,
          paddingVertical: 8,
          minHeight: 64,
          backgroundColor: background,
        }}
      >
        {children}
      </ListItem>
    </>
  );
}

interface FoldProps {
  /** What is folded away, with how much of it. */
  title: string;
  open: boolean;
  onToggle: () => void;
  children: ReactNode;
}

/** Something that is unfolded in place. */
export function Fold({ title, open, onToggle, children }: FoldProps) {
  const spoken = { role: 'button', 'aria-expanded': open } as object;
  return (
    <ListItem.Accordion
      noIcon
      isExpanded={open}
      onPress={onToggle}
      animation={{ type: 'timing', duration: 120 }}
      containerStyle={{ padding: 0, minHeight: THUMB }}
      content={
        <Words size={15.5} weight={650}>
          {`${title}: ${open ? 'hide' : 'show'}`}
        </Words>
      }
      {...spoken}
    >
      {children}
    </ListItem.Accordion>
  );
}
