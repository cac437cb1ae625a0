// Opens the list of reminders when a notification is touched: in a window that is there, or a new one.
self.addEventListener('notificationclick', (event) => {
  event.notification.close();
  const open = async () => {
    const windows = await self.clients.matchAll({ type: 'window', includeUncontrolled: true });
    const window = windows[0];
    if (!window) return self.clients.openWindow('/said');
    await window.focus();
    return window.navigate('/said');
  };
  event.waitUntil(open());
});
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
