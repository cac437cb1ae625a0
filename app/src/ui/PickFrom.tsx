import { useDeferredValue, useMemo, useRef, useState } from 'react';
import { Pressable, View } from 'react-native';
import { Search } from './Search.tsx';
import { WordLink, Words } from './Words.tsx';
import { THUMB, useLook } from './look.ts';

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
  items: readonly Item[];
  value: string;
  /** What is shown for a value that is not in the list. */
  none: string;
  hint?: string;
  error?: string | undefined;
  onChange: (value: string) => void;
}

/** So many are shown at once. */
const MOST = 24;

const plain = (text: string) =>
  text.normalize('NFD').replaceAll(/\p{M}/gu, '').replaceAll(/[_/,]/gu, ' ').toLowerCase();

/** One of very many, found by what it is called; the arrows go through what was found (ARIA APG, combobox). */
export function PickFrom({ label, items, value, none, hint, error, onChange }: PickFromProps) {
  const look = useLook();
  const [isOpen, setOpen] = useState(false);
  const [text, setText] = useState('');
  const sought = useDeferredValue(text);
  const list = useRef<View>(null);
  const chosen = items.find((item) => item.value === value);
  const known = useMemo(
    () =>
      items.map((item) => ({
        item,
        words: plain(`${item.name} ${item.aside ?? ''} ${item.also ?? ''}`),
      })),
    [items],
  );
  const found = useMemo(() => {
    const wanted = plain(sought).split(' ').filter(Boolean);
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
          label={chosen?.name ?? none}
          name={`${label}: ${chosen?.name ?? none}. Choose another`}
          expanded={isOpen}
          size={17}
          onPress={() => setOpen(!isOpen)}
        />
        {chosen?.aside ? (
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
                {...({ role: 'option', 'aria-selected': item.value === value } as object)}
                aria-label={item.aside ? `${item.name}, ${item.aside}` : item.name}
                onPress={() => pick(item)}
                style={{
                  minHeight: THUMB,
                  justifyContent: 'center',
                  paddingHorizontal: 12,
                  borderRadius: 10,
                  backgroundColor: item.value === value ? look.slateFill : 'transparent',
                }}
              >
                <Words size={16} weight={item.value === value ? 700 : 400}>
                  {item.name}
                  {item.aside ? (
                    <Words size={14.5} tint={item.value === value ? 'ink' : 'soft'}>
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
      {error || hint ? (
        <View role={error ? 'alert' : undefined}>
          <Words size={14.5} tint={error ? 'ink' : 'soft'} weight={error ? 650 : 400}>
            {error ?? hint}
          </Words>
        </View>
      ) : null}
    </View>
  );
}
