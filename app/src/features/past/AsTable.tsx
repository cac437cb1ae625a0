import { useState } from 'react';
import { View } from 'react-native';
import { WordLink, Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';

interface AsTableProps {
  /** What it is a table of. */
  name: string;
  heads: readonly string[];
  rows: readonly (readonly string[])[];
}

/** What a picture shows, as a table: for those who cannot see it, or want the numbers. */
export function AsTable({ name, heads, rows }: AsTableProps) {
  const look = useLook();
  const [open, setOpen] = useState(false);
  return (
    <View>
      <View style={{ alignItems: 'flex-start' }}>
        <WordLink
          label={open ? 'Hide the table' : 'As a table'}
          name={`${open ? 'Hide the table' : 'As a table'}: ${name}`}
          expanded={open}
          onPress={() => setOpen(!open)}
        />
      </View>
      {open ? (
        <View role="table" aria-label={name}>
          <Row cells={heads} isHead />
          {rows.map((cells, i) => (
            <View
              key={`${cells[0]} ${i}`}
              style={{ borderTopWidth: 1, borderTopColor: look.line }}
              role="presentation"
            >
              <Row cells={cells} />
            </View>
          ))}
        </View>
      ) : null}
    </View>
  );
}

function Row({ cells, isHead = false }: { cells: readonly string[]; isHead?: boolean }) {
  return (
    <View role="row" style={{ flexDirection: 'row', gap: 12, paddingVertical: 6 }}>
      {cells.map((cell, i) => (
        <View key={i} role={isHead ? ('columnheader' as never) : 'cell'} style={{ flex: 1 }}>
          <Words size={14.5} weight={isHead ? 650 : 400} tint={isHead ? 'soft' : 'ink'}>
            {cell}
          </Words>
        </View>
      ))}
    </View>
  );
}
