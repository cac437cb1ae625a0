/**
 * Asks before a screen is left on which something is typed that could not be kept. The screen says whether it
 * may be left; the links of the frame and its keys ask.
 */

let guard: (() => boolean) | null = null;

/** From here on it is asked before this screen is left; gives what ends that. */
export function askBeforeLeaving(mayLeave: () => boolean): () => void {
  guard = mayLeave;
  const closing = (event: BeforeUnloadEvent) => {
    if (!mayLeave()) event.preventDefault();
  };
  globalThis.addEventListener('beforeunload', closing);
  return () => {
    if (guard === mayLeave) guard = null;
    globalThis.removeEventListener('beforeunload', closing);
  };
}

/** Whether the screen may be left; where it may not, it says why. */
export const mayLeave = (): boolean => guard === null || guard();
