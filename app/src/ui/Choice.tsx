import { View } from 'react-native';
import { WordLink } from './Words.tsx';

interface ChoiceProps<T extends string> {
  label: string;
  options: readonly { value: T; label: string }[];
  value: T | null;
  onChange: (value: T) => void;
}

/** One of a few, as words in a row. */
export function Choice<T extends string>({ label, options, value, onChange }: ChoiceProps<T>) {
  return (
    <View
      role="group"
      aria-label={label}
      style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}
    >
      {options.map((option) => (
        <WordLink
          key={option.value}
          label={option.label}
          size={16}
          selected={option.value === value}
          onPress={() => onChange(option.value)}
        />
      ))}
    </View>
  );
}
