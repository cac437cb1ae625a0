import { View } from 'react-native';
import { Check } from './Check.tsx';
import { underline, Words } from './Words.tsx';
import { useLook } from './look.ts';

interface Option<T extends string> {
  value: T;
  label: string;
}

interface ChoiceProps<T extends string> {
  label: string;
  options: readonly Option<T>[];
  value: T | null;
  onChange: (value: T) => void;
}

/** One of a few, as words in a row; the arrows go from one to the next. */
export function Choice<T extends string>({ label, options, value, onChange }: ChoiceProps<T>) {
  const chosen = options.findIndex((option) => option.value === value);
  const hear = (event: { key: string; currentTarget: unknown; preventDefault: () => void }) => {
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    const next = (Math.max(chosen, 0) + step + options.length) % options.length;
    onChange(options[next]!.value);
    const group = event.currentTarget as HTMLElement;
    group.querySelectorAll<HTMLElement>('[role=radio]')[next]?.focus();
  };
  return (
    <View
      role="radiogroup"
      aria-label={label}
      {...({ onKeyDown: hear } as object)}
      style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}
    >
      {options.map((option, i) => (
        <Word
          key={option.value}
          role="radio"
          label={option.label}
          on={i === chosen}
          isReached={i === Math.max(chosen, 0)}
          onPress={() => onChange(option.value)}
        />
      ))}
    </View>
  );
}

const STEPS: Record<string, number> = {
  ArrowRight: 1,
  ArrowDown: 1,
  ArrowLeft: -1,
  ArrowUp: -1,
};

interface SomeOfProps<T extends string> {
  label: string;
  options: readonly Option<T>[];
  value: readonly T[];
  onToggle: (value: T) => void;
}

/** Any of a few, as words in a row. */
export function SomeOf<T extends string>({ label, options, value, onToggle }: SomeOfProps<T>) {
  return (
    <View
      role="group"
      aria-label={label}
      style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}
    >
      {options.map((option) => (
        <Word
          key={option.value}
          role="checkbox"
          label={option.label}
          on={value.includes(option.value)}
          onPress={() => onToggle(option.value)}
        />
      ))}
    </View>
  );
}

interface WordProps {
  role: 'radio' | 'checkbox';
  label: string;
  on: boolean;
  /** Whether the tabulator stops at it. */
  isReached?: boolean;
  onPress: () => void;
}

/** A word that can be chosen: what is chosen has the heavier line. */
function Word({ label, on, ...rest }: WordProps) {
  const look = useLook();
  return (
    <Check {...rest} name={label} on={on}>
      <View
        style={[underline(look), on ? { borderBottomWidth: 4, borderBottomColor: look.ink } : null]}
      >
        <Words size={16} weight={650}>
          {label}
        </Words>
      </View>
    </Check>
  );
}
