import Skeleton from '@rneui/themed/dist/Skeleton';
import { View } from 'react-native';
import { useLook } from './look.ts';

/** Where something will stand that is still on its way from the server: so many lines of it. */
export function Waiting({ lines, label }: { lines: number; label: string }) {
  const look = useLook();
  return (
    <View role="status" aria-busy aria-label={label} style={{ gap: 12, paddingVertical: 8 }}>
      {Array.from({ length: lines }, (_, i) => (
        <Skeleton
          key={i}
          animation="none"
          height={14}
          width={`${i % 2 ? 64 : 86}%` as never}
          style={{ backgroundColor: look.line, borderRadius: 4 }}
          {...({ 'aria-hidden': true, accessibilityLabel: undefined } as object)}
        />
      ))}
    </View>
  );
}
