import type { ReactNode } from 'react';
import { View } from 'react-native';
import { errorOf } from '../../data/api.ts';
import { Note } from '../../ui/Note.tsx';
import { Unreachable } from '../../ui/Unreachable.tsx';
import { Waiting } from '../../ui/Waiting.tsx';

interface AskedProps<T> {
  it: { data?: T | undefined; error?: unknown; refetch: () => unknown };
  lines?: number;
  children: (data: T) => ReactNode;
}

/** What the server is asked for: while it is on its way, where it failed, and once it is there. */
export function Asked<T>({ it, lines = 8, children }: AskedProps<T>) {
  const { data, error, refetch } = it;
  if (data === undefined)
    return error ? (
      <Unreachable words={errorOf(error as never).message} onRetry={() => void refetch()} />
    ) : (
      <View style={{ paddingHorizontal: 20 }}>
        <Waiting lines={lines} label="What happened is on its way" />
      </View>
    );
  return (
    <>
      {error ? (
        <View style={{ paddingHorizontal: 20, paddingBottom: 8 }}>
          <Note
            words={`This is how it stood last. ${errorOf(error as never).message}`}
            action={{ label: 'Try again', onPress: () => void refetch() }}
          />
        </View>
      ) : null}
      {children(data)}
    </>
  );
}
