import { useEffect, useRef, useState } from 'react';
import { useShown } from '../../data/todos.ts';
import type { Found, Looked, Told } from './looking.ts';
import type { Column } from './table.ts';

/** How far a file is looked at, what was found, or what is wrong. */
export type Looking =
  | { at: 'nothing' }
  | { at: 'looking'; share: number }
  | { at: 'found'; found: Found; name: string }
  | { at: 'wrong'; words: string };

const MOST_BYTES = 30_000_000;

/** Looks at a file in a worker, which is ended as soon as nobody wants to know any more. */
export function useLooking() {
  const { person, names, now, today } = useShown();
  const [looking, setLooking] = useState<Looking>({ at: 'nothing' });
  const worker = useRef<Worker | null>(null);
  const file = useRef<{ bytes: ArrayBuffer; name: string } | null>(null);
  const end = () => {
    worker.current?.terminate();
    worker.current = null;
  };
  useEffect(() => end, []);

  const start = (columns?: Column[]) => {
    end();
    const { bytes, name } = file.current!;
    const { settings, holidays } = person;
    const it: Looked = {
      bytes,
      settings,
      holidays,
      places: [...names()],
      now,
      today,
      ...(columns ? { columns } : {}),
    };
    setLooking({ at: 'looking', share: 0 });
    const made = new Worker('/doors.worker.js');
    worker.current = made;
    made.onmessage = ({ data }: MessageEvent<Told>) => {
      if (worker.current !== made) return;
      if (data.kind === 'far')
        setLooking({ at: 'looking', share: data.of ? data.done / data.of : 0 });
      else {
        end();
        setLooking(
          data.kind === 'found'
            ? { at: 'found', found: data.found, name }
            : { at: 'wrong', words: data.words },
        );
      }
    };
    made.onerror = () => {
      end();
      setLooking({ at: 'wrong', words: 'This file cannot be read.' });
    };
    made.postMessage(it);
  };

  return {
    looking,
    async look(chosen: File) {
      if (chosen.size > MOST_BYTES) {
        setLooking({ at: 'wrong', words: 'This file has more than 30 MB: bring it in pieces.' });
        return;
      }
      setLooking({ at: 'looking', share: 0 });
      file.current = { bytes: await chosen.arrayBuffer(), name: chosen.name };
      start();
    },
    again: (columns: Column[]) => start(columns),
    stop() {
      end();
      setLooking({ at: 'nothing' });
    },
  };
}
