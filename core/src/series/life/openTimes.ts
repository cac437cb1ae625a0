import type { Occurrence } from './progress.ts';
import type { Instant } from '../../calendar/zone.ts';

/** The order of times: by slot, and of one slot by number. */
export const inOrder = (a: Occurrence, b: Occurrence): number =>
  a.slot < b.slot ? -1 : a.slot > b.slot ? 1 : a.number - b.number;

/** Where a time stands, or belongs, in a list that is in order. */
export function placeOf(times: readonly Occurrence[], time: Occurrence): number {
  return placeIn(times, (other) => inOrder(other, time) < 0);
}

/** How many of a list in order come before something, by halving. */
export function placeIn<T>(list: readonly T[], isBefore: (it: T) => boolean): number {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (isBefore(list[middle]!)) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Open times by the moment at which each ends if nothing else happens: the earliest is found at once. */
export class Endings {
  /** A binary heap: none ends after those at twice its place and one or two more. */
  private readonly heap: { at: Instant; time: Occurrence }[] = [];

  add(time: Occurrence, at: Instant): void {
    if (at === Infinity) return;
    const { heap } = this;
    let i = heap.length;
    heap.push({ at, time });
    for (let up = (i - 1) >> 1; i > 0 && this.comesBefore(i, up); up = (i - 1) >> 1) {
      this.swap(i, up);
      i = up;
    }
  }

  /** When the first of those that are still open ends; Infinity without any. */
  first(): Instant {
    while (this.heap.length && this.heap[0]!.time.status !== 'open') this.take();
    return this.heap[0]?.at ?? Infinity;
  }

  /** Takes out those that are over at an instant, in order of their slots. */
  takeUntil(at: Instant): Occurrence[] {
    const over = new Set<Occurrence>();
    while (this.first() <= at) over.add(this.take());
    return [...over].sort(inOrder);
  }

  private take(): Occurrence {
    const { heap } = this;
    const { time } = heap[0]!;
    const last = heap.pop()!;
    if (!heap.length) return time;
    heap[0] = last;
    for (let i = 0; ;) {
      const [left, right] = [2 * i + 1, 2 * i + 2];
      const down = right < heap.length && this.comesBefore(right, left) ? right : left;
      if (down >= heap.length || !this.comesBefore(down, i)) return time;
      this.swap(i, down);
      i = down;
    }
  }

  private comesBefore(i: number, j: number): boolean {
    const [a, b] = [this.heap[i]!, this.heap[j]!];
    return a.at < b.at || (a.at === b.at && inOrder(a.time, b.time) < 0);
  }

  private swap(i: number, j: number): void {
    [this.heap[i], this.heap[j]] = [this.heap[j]!, this.heap[i]!];
  }
}
