import Divider from '@rneui/themed/dist/Divider';
import { useLook } from './look.ts';

/** A thin line between two things. */
export function Rule({ inset = 0 }: { inset?: number }) {
  const look = useLook();
  return (
    <Divider
      color={look.line}
      width={1}
      style={{ marginHorizontal: inset }}
      {...({ role: 'presentation' } as object)}
    />
  );
}
