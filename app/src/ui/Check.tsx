import CheckBox from '@rneui/themed/dist/CheckBox';
import type { ReactElement } from 'react';
import { THUMB } from './look.ts';

interface CheckProps {
  role: 'radio' | 'checkbox';
  /** What a screen reader says. */
  name: string;
  on: boolean;
  onPress: () => void;
  /** What stands before the words; nothing where they say it themselves. */
  mark?: ReactElement<object>;
  /** Whether the tabulator stops at it. */
  isReached?: boolean;
  children: ReactElement<object>;
}

const NOTHING = <></>;

/** Something that is chosen or not, by its words; it has no box. */
export function Check({
  role,
  name,
  on,
  onPress,
  mark = NOTHING,
  isReached = true,
  children,
}: CheckProps) {
  // What the library says of it is for the phone’s own parts alone.
  const spoken = {
    role,
    'aria-checked': on,
    'aria-label': name,
    tabIndex: isReached ? 0 : -1,
  } as object;
  return (
    <CheckBox
      checked={on}
      onPress={onPress}
      checkedIcon={mark}
      uncheckedIcon={mark}
      containerStyle={{
        margin: 0,
        marginLeft: 0,
        marginRight: 0,
        padding: 0,
        minHeight: THUMB,
        justifyContent: 'center',
      }}
      wrapperStyle={{ gap: 12 }}
      title={children}
      {...spoken}
    />
  );
}
