import Divider from '@rneui/themed/dist/Divider';
import { useLook } from './look.ts';

/** A thin line between two things. */
export function Rule() {
  const look = useLook();
  return <Divider color={look.line} width={1} {...({ role: 'presentation' } as object)} />;
}
