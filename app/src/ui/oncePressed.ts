/** Where quick presses are meant one by one: a step up or down, the months of a calendar, what is typed into. */
const REPEATS = '[data-repeats], input, textarea, select, [contenteditable]';

/** What stands around something that may be pressed quickly: each press counts. */
export const EACH_COUNTS = { dataSet: { repeats: '' } } as object;

/**
 * A double press does one thing: the second click of a double one (UI Events, `detail`) is not heard, whatever
 * has come to lie under it, nor is a key that is held down on a button. Gives what ends that.
 */
export function pressedOnce(page: Document): () => void {
  const isMeant = (target: EventTarget | null) =>
    target instanceof Element && target.closest(REPEATS) !== null;
  const click = (event: MouseEvent) => {
    if (event.detail > 1 && !isMeant(event.target)) swallow(event);
  };
  const key = (event: KeyboardEvent) => {
    if (event.repeat && (event.key === 'Enter' || event.key === ' ') && !isMeant(event.target))
      swallow(event);
  };
  page.addEventListener('click', click, true);
  page.addEventListener('keydown', key, true);
  return () => {
    page.removeEventListener('click', click, true);
    page.removeEventListener('keydown', key, true);
  };
}

function swallow(event: Event) {
  event.preventDefault();
  event.stopPropagation();
}
