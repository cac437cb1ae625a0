const FOCUSABLE =
  'a[href], button:not([disabled]), input:not([disabled]), textarea:not([disabled]), [tabindex="0"]';
/** So many that had the focus before are remembered. */
const REMEMBERED = 24;

/**
 * The focus goes to nowhere never: where what had it is taken away, it goes to what had it before in what is
 * left of its surroundings (what opened a panel, the head of its row), else to what stood beside; out of a
 * dialog to what opened it; with a whole screen to the heading of the next. Gives what ends that.
 */
export function keptFocus(page: Document): () => void {
  /** What has the focus and what it stands in, the innermost first. */
  let path: Element[] = [];
  let before: HTMLElement[] = [];
  /** What stood behind and before what was taken away. */
  let beside: { next: Node | null; last: Node | null } = { next: null, last: null };

  const came = (event: FocusEvent) => {
    const target = event.target;
    if (!(target instanceof HTMLElement) || target === page.body) return;
    path = [];
    for (let at: Element | null = target; at; at = at.parentElement) path.push(at);
    before = [target, ...before.filter((it) => it !== target)].slice(0, REMEMBERED);
    beside = { next: null, last: null };
  };
  const look = new MutationObserver((records) => {
    const gone = path[0];
    if (!gone || gone.isConnected) return;
    for (const { removedNodes, nextSibling, previousSibling } of records)
      for (const node of removedNodes)
        if (node.contains(gone)) beside = { next: nextSibling, last: previousSibling };
    const active = page.activeElement;
    if (active && active !== page.body && active.isConnected) return;
    const to = heir();
    if (!to) return;
    if (!to.matches(FOCUSABLE)) to.setAttribute('tabindex', '-1');
    to.focus({ preventScroll: true });
  });

  function heir(): HTMLElement | null {
    const left = before.filter((it) => it.isConnected && isSeen(it));
    if (path.some((it) => it.getAttribute('role') === 'dialog')) return left[0] ?? heading();
    const around = path.find((it) => it.isConnected);
    const main = page.querySelector('main, [role=main]');
    // A whole screen has gone: what comes next says where one is.
    if (!around || around === main || !main?.contains(around)) return heading();
    for (let at: Element | null = around; at && at !== main; at = at.parentElement) {
      const known = left.find((it) => at!.contains(it));
      if (known) return known;
      const near = firstIn(beside.next, 'nextSibling') ?? firstIn(beside.last, 'previousSibling');
      if (near) return near;
      const inside = [...at.querySelectorAll<HTMLElement>(FOCUSABLE)].find(isSeen);
      if (inside) return inside;
    }
    return heading();
  }
  const heading = () => page.querySelector<HTMLElement>('main h1, [role=main] h1');

  page.addEventListener('focusin', came);
  look.observe(page.body, { childList: true, subtree: true });
  return () => {
    page.removeEventListener('focusin', came);
    look.disconnect();
  };
}

const isSeen = (it: HTMLElement) => it.getClientRects().length > 0;

/** The first that can have the focus in a node or in those that follow it. */
function firstIn(node: Node | null, way: 'nextSibling' | 'previousSibling'): HTMLElement | null {
  for (let at = node; at; at = at[way]) {
    if (!(at instanceof HTMLElement)) continue;
    if (at.matches(FOCUSABLE) && isSeen(at)) return at;
    const inside = [...at.querySelectorAll<HTMLElement>(FOCUSABLE)].find(isSeen);
    if (inside) return inside;
  }
  return null;
}
