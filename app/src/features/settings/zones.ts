import type { Item } from '../../ui/PickFrom.tsx';

/** Time zones by the names of their places, with what time it is there (ECMA-402, IANA names). */
export function zoneItems(now: number): Item[] {
  const names = Intl.supportedValuesOf('timeZone');
  const all = names.includes('UTC') ? names : [...names, 'UTC'];
  return all.map((zone) => itemOf(zone, now)).sort((a, b) => a.name.localeCompare(b.name, 'en'));
}

export function itemOf(zone: string, now: number): Item {
  const [place = zone, ...around] = zone.split('/').reverse();
  const named = (style: 'long' | 'short' | 'longGeneric') =>
    new Intl.DateTimeFormat('en-GB', { timeZone: zone, timeZoneName: style })
      .formatToParts(now)
      .find(({ type }) => type === 'timeZoneName')?.value ?? '';
  const hour = new Intl.DateTimeFormat('en-GB', { timeZone: zone, timeStyle: 'short' }).format(now);
  const where = around.reverse().join(', ');
  return {
    value: zone,
    name: spaced(place),
    aside: [spaced(where), `now ${hour}`].filter(Boolean).join(' · '),
    also: `${named('longGeneric')} ${named('short')}`,
  };
}

const spaced = (text: string) => text.replaceAll('_', ' ');
