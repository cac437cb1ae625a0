import SearchBar from '@rneui/themed/dist/SearchBar';
import { useState } from 'react';
import { typedStyle } from './Field.tsx';
import { useLook } from './look.ts';

interface SearchProps {
  label: string;
  placeholder: string;
  value: string;
  onChange: (text: string) => void;
  /** Whether it has the focus at once. */
  isFocused?: boolean;
}

const NOTHING = <></>;

/** A field to look for something in. */
export function Search({ label, placeholder, value, onChange, isFocused = false }: SearchProps) {
  const look = useLook();
  const [focused, setFocused] = useState(false);
  return (
    <SearchBar
      platform="default"
      aria-label={label}
      placeholder={placeholder}
      placeholderTextColor={look.soft}
      value={value}
      onChangeText={onChange}
      autoFocus={isFocused}
      onFocus={() => setFocused(true)}
      onBlur={() => setFocused(false)}
      inputMode="search"
      // Words stand in the place of icons.
      searchIcon={NOTHING}
      clearIcon={NOTHING}
      leftIconContainerStyle={{ display: 'none' }}
      rightIconContainerStyle={{ display: 'none' }}
      containerStyle={{
        backgroundColor: 'transparent',
        borderTopWidth: 0,
        borderBottomWidth: 0,
        padding: 0,
      }}
      inputContainerStyle={{ backgroundColor: 'transparent', overflow: 'visible' }}
      inputStyle={{ ...typedStyle(look, { size: 17, focused }), marginLeft: 0 }}
    />
  );
}
