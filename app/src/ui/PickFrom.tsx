import { plainText } from '@back-again/core';
import { useDeferredValue, useMemo, useRef, useState } from 'react';
import { Pressable, View } from 'react-native';
import { Search } from './Search.tsx';
import { WordLink, Words } from './Words.tsx';
import { THUMB, useLook } from './look.ts';
import { Below } from './Below.tsx';

export interface Item {
  value: string;
  /** As people call it. */
  name: string;
  /** What stands beside it: where it is, what time it is there. */
  aside?: string;
  /** What else it is found by. */
  also?: string;
}

interface PickFromProps {
  label: string;
  /** All that there is to choose from: made once it is opened. */
  items: () => readonly Item[];
  chosen: Item;
  hint?: string;
  error?: string | undefined;
  onChange: (value: string) => void;
}

/** So many are shown at once. */
const MOST = 24;

/** One of very many, found by what it is called; the arrows go through what was found (ARIA APG, combobox). */
export function PickFrom({ label, items, chosen, hint, error, onChange }: PickFromProps) {
  const look = useLook();
  const [isOpen, setOpen] = useState(false);
  const [text, setText] = useState('');
  const sought = useDeferredValue(text);
  const list = useRef<View>(null);
  const latest = useRef(items);
  latest.current = items;
  const known = useMemo(() => {
    const all = isOpen ? latest.current() : [];
    return all.map((item) => ({
      item,
      words: plainText(`${item.name} ${item.aside ?? ''} ${item.also ?? ''}`),
    }));
  }, [isOpen]);
  const found = useMemo(() => {
    const wanted = plainText(sought).split(' ').filter(Boolean);
    const all = known.filter(({ words }) => wanted.every((it) => words.includes(it)));
    // Those whose own name begins so come first.
    const first = wanted[0] ?? '';
    const rank = ({ words }: { words: string }) => (words.startsWith(first) ? 0 : 1);
    return all.sort((a, b) => rank(a) - rank(b)).map(({ item }) => item);
  }, [known, sought]);
  const pick = (item: Item) => {
    onChange(item.value);
    setOpen(false);
    setText('');
  };
  const options = () => [
    ...((list.current as unknown as HTMLElement | null)?.querySelectorAll<HTMLElement>(
      '[role=option]',
    ) ?? []),
  ];
  const hear = (event: { key: string; preventDefault: () => void }) => {
    if (event.key === 'Escape') setOpen(false);
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (!step) return;
    event.preventDefault();
    const all = options();
    const at = all.indexOf(document.activeElement as HTMLElement);
    all[Math.min(all.length - 1, Math.max(0, at + step))]?.focus();
  };
  const shown = found.slice(0, MOST);
  return (
    <View {...({ onKeyDownCapture: hear } as object)} style={{ gap: 5 }}>
      <Words size={15} weight={600}>
        {label}
      </Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 12 }}>
        <WordLink
          label={chosen.name}
          name={`${label}: ${chosen.name}. Choose another`}
          expanded={isOpen}
          size={17}
          onPress={() => setOpen(!isOpen)}
        />
        {chosen.aside ? (
          <Words size={15} tint="soft">
            {chosen.aside}
          </Words>
        ) : null}
      </View>
      {isOpen ? (
        <View style={{ gap: 6 }}>
          <Search
            label={`Look for: ${label}`}
            placeholder="Begin to type its name"
            value={text}
            onChange={setText}
            isFocused
          />
          <View ref={list} {...({ role: 'listbox' } as object)} aria-label={label}>
            {shown.map((item) => (
              <Pressable
                key={item.value}
                {...({ role: 'option', 'aria-selected': item.value === chosen.value } as object)}
                aria-label={item.aside ? `${item.name}, ${item.aside}` : item.name}
                onPress={() => pick(item)}
                style={{
                  minHeight: THUMB,
                  justifyContent: 'center',
                  paddingHorizontal: 12,
                  borderRadius: 10,
                  backgroundColor: item.value === chosen.value ? look.slateFill : 'transparent',
                }}
              >
                <Words size={16} weight={item.value === chosen.value ? 700 : 400}>
                  {item.name}
                  {item.aside ? (
                    <Words size={14.5} tint={item.value === chosen.value ? 'ink' : 'soft'}>
                      {`  ${item.aside}`}
                    </Words>
                  ) : null}
                </Words>
              </Pressable>
            ))}
          </View>
          <View role="status">
            {found.length > MOST ? (
              <Words size={14.5} tint="soft">{`and ${found.length - MOST} more: type on.`}</Words>
            ) : found.length ? null : (
              <Words size={15}>Nothing is called so.</Words>
            )}
          </View>
        </View>
      ) : null}
      <Below error={error} hint={hint} />
    </View>
  );
}
