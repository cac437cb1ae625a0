/* global caches, Response */
// What came to this device while no window was open, and what is touched in it. A window does not show again what
// is noted here (`browserSays.ts`).
const SHOWN = 'back-again shown';
const ACTIONS = [
  { action: 'done', title: 'Done' },
  { action: 'later', title: 'Later' },
];
const NOT_SENT = 'It did not get through: there was no connection. Touch it again.';

self.addEventListener('push', (event) => {
  const { id, title, body, token } = event.data.json();
  const show = async () => {
    await self.registration.showNotification(title, shown(id, body, token));
    await (await caches.open(SHOWN)).put(`/shown/${id}`, new Response());
  };
  event.waitUntil(show());
});

/** A notification with its actions, as long as something can be done from it. */
function shown(id, body, token) {
  return { body, tag: id, data: { id, token }, ...(token ? { actions: ACTIONS } : {}) };
}

// In a notification: *Done* and *Later* do it from here; anything else opens the list of reminders.
self.addEventListener('notificationclick', (event) => {
  const { notification, action } = event;
  notification.close();
  event.waitUntil(action ? touched(notification, action) : open());
});

/** Finishes or puts off, and says what became of it in the place of the notification. */
async function touched({ title, tag, data }, action) {
  let words = NOT_SENT;
  try {
    const answer = await fetch(`/api/touched/${data.token}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ do: action }),
    });
    const { words: said, error } = await answer.json();
    if (answer.status < 500) words = said ?? error.message;
  } catch {
    // Nothing answered: it can be touched again.
  }
  const token = words === NOT_SENT ? data.token : undefined;
  await self.registration.showNotification(title, { ...shown(tag, words, token), silent: true });
}

/** Opens the list of reminders, in a window that is there or a new one. */
async function open() {
  const windows = await self.clients.matchAll({ type: 'window', includeUncontrolled: true });
  const window = windows[0];
  if (!window) return self.clients.openWindow('/said');
  await window.focus();
  return window.navigate('/said');
}

self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
