import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Heading, Words } from './Words.tsx';

interface PartProps {
  title: string;
  aside?: string | undefined;
  /** What it is called for screen readers, where that is not its title. */
  name?: string;
  gap?: number;
  children: ReactNode;
}

/** A part of the page, with its heading and a few words beside it. */
export function Part({ title, aside, name = title, gap = 4, children }: PartProps) {
  return (
    <View role="region" aria-label={name} style={{ gap }}>
      <View
        style={{
          flexDirection: 'row',
          justifyContent: 'space-between',
          alignItems: 'baseline',
          flexWrap: 'wrap',
          columnGap: 12,
        }}
      >
        <Heading level={2} size={16}>
          {title}
        </Heading>
        {aside ? (
          <Words size={14.5} tint="soft">
            {aside}
          </Words>
        ) : null}
      </View>
      {children}
    </View>
  );
}
