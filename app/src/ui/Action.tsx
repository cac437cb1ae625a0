import RneButton from '@rneui/themed/dist/Button';
import { FONT, THUMB, useLook } from './look.ts';
import { rem } from './rem.ts';

interface ActionProps {
  label: string;
  onPress: () => void;
  /** What a screen reader says: the word and what it is done to. */
  name?: string;
  filled?: boolean;
  disabled?: boolean;
  busy?: boolean;
  testID?: string;
}

/** A button with a short verb. */
export function Action({
  label,
  onPress,
  name,
  filled = false,
  disabled = false,
  busy = false,
  testID,
}: ActionProps) {
  const look = useLook();
  const tint = disabled ? look.soft : filled ? look.paper : look.ink;
  return (
    <RneButton
      title={label}
      onPress={onPress}
      disabled={disabled}
      accessibilityRole="button"
      accessibilityLabel={name ?? label}
      aria-busy={busy}
      testID={testID}
      type="outline"
      containerStyle={{ borderRadius: 10, overflow: 'visible' }}
      buttonStyle={{
        minHeight: THUMB,
        minWidth: THUMB,
        paddingVertical: 6,
        paddingHorizontal: 14,
        borderRadius: 10,
        borderWidth: 1.5,
        borderColor: disabled ? look.track : look.ink,
        backgroundColor: filled && !disabled ? look.ink : 'transparent',
      }}
      disabledStyle={{ backgroundColor: 'transparent', borderColor: look.track }}
      titleStyle={{ fontFamily: FONT, fontSize: rem(15), fontWeight: '650' as never, color: tint }}
      disabledTitleStyle={{ color: look.soft }}
    />
  );
}
