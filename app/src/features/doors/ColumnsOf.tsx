import { useState } from 'react';
import { View } from 'react-native';
import { Choice } from '../../ui/Choice.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import type { Found } from './looking.ts';
import type { Column } from './table.ts';

const OPTIONS: { value: Column; label: string }[] = [
  { value: 'title', label: 'name' },
  { value: 'sentence', label: 'how it comes back' },
  { value: 'due', label: 'date' },
  { value: 'note', label: 'note' },
  { value: 'place', label: 'place' },
  { value: 'tags', label: 'tags' },
  { value: 'minutes', label: 'minutes' },
  { value: 'importance', label: 'importance' },
  { value: 'done', label: 'done or not' },
  { value: 'none', label: 'nothing' },
];

interface ColumnsOfProps {
  table: NonNullable<Found['table']>;
  onChange: (columns: Column[]) => void;
}

/** What each column of a table is taken for: shown, and set by touch. */
export function ColumnsOf({ table, onChange }: ColumnsOfProps) {
  const [open, setOpen] = useState<number | null>(null);
  const { heads, columns, samples } = table;
  return (
    <View style={{ gap: 2 }}>
      {heads.map((head, i) => {
        const label = OPTIONS.find(({ value }) => value === columns[i])!.label;
        const name = head.trim() || `Column ${i + 1}`;
        return (
          <View key={i}>
            <View
              style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 6 }}
            >
              <Words size={15}>{`“${name}” is`}</Words>
              <WordLink
                label={label}
                name={`Column ${i + 1}, ${name}: ${label}`}
                size={15}
                expanded={open === i}
                onPress={() => setOpen(open === i ? null : i)}
              />
              <Words size={14} tint="soft" numberOfLines={1} style={{ flexShrink: 1 }}>
                {samples[i]!.filter(Boolean).slice(0, 2).join(' · ')}
              </Words>
            </View>
            {open === i ? (
              <Choice
                label={`Column ${i + 1}, ${name}`}
                options={OPTIONS}
                value={columns[i]!}
                onChange={(value) => {
                  setOpen(null);
                  onChange(columns.map((column, n) => (n === i ? value : column)));
                }}
              />
            ) : null}
          </View>
        );
      })}
    </View>
  );
}
