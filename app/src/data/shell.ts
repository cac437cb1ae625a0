import { useEffect, useState } from 'react';

/**
 * The program itself on this device: a service worker keeps it, so that it opens without a connection.
 * A newer one waits until the person takes it.
 */

export const WORKER = '/worker.js';

let taken = false;

/** Registers the worker; gives what puts a newer program in place, null while there is none. */
export function useUpdate(): (() => void) | null {
  const [waiting, setWaiting] = useState<ServiceWorker | null>(null);
  useEffect(() => {
    const { serviceWorker } = navigator as Partial<Navigator>;
    if (!serviceWorker) return;
    const look = (registration: ServiceWorkerRegistration) => {
      // Without one in charge it is the first, and nothing newer.
      if (registration.waiting && serviceWorker.controller) setWaiting(registration.waiting);
      registration.addEventListener('updatefound', () => {
        const { installing } = registration;
        installing?.addEventListener('statechange', () => {
          if (installing.state === 'installed' && serviceWorker.controller) setWaiting(installing);
        });
      });
    };
    // Not being kept is no error: it then needs a connection to open.
    serviceWorker.register(WORKER).then(look, () => undefined);
    const reload = () => {
      if (taken) globalThis.location.reload();
    };
    serviceWorker.addEventListener('controllerchange', reload);
    return () => serviceWorker.removeEventListener('controllerchange', reload);
  }, []);
  return (
    waiting &&
    (() => {
      taken = true;
      waiting.postMessage({ type: 'SKIP_WAITING' });
    })
  );
}
