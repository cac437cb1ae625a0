import { View } from 'react-native';
import { Words } from './Words.tsx';

interface BelowProps {
  /** By which a field names it. */
  id?: string;
  /** What is wrong, in words; it is read out. */
  error?: string | null | undefined;
  hint?: string | undefined;
}

/** What stands below a field: what is wrong with it, else what it is for. */
export const Below = ({ id, error, hint }: BelowProps) =>
  error || hint ? (
    <View id={id} role={error ? 'alert' : undefined}>
      <Words size={14.5} tint={error ? 'ink' : 'soft'} weight={error ? 650 : 400}>
        {error ?? hint}
      </Words>
    </View>
  ) : null;
