import type { ReactNode } from 'react';
import { useRoom } from '../../data/room.tsx';
import { useLocal, useIsHere } from '../../data/todos.ts';
import { Unreachable } from '../../ui/Unreachable.tsx';

/** Shows what is inside once a person’s to-dos are here: they come in a moment, or cannot without a connection. */
export function Gate({ children }: { children: ReactNode }) {
  const { sync } = useRoom();
  const { isConnected } = useLocal();
  if (useIsHere()) return children;
  if (isConnected) return null;
  return (
    <Unreachable
      words="No connection, and this device has kept nothing yet."
      onRetry={() => void sync.refresh()}
    />
  );
}
