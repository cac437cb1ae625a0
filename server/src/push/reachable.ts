import { lookup as ask, type LookupAddress, type LookupOptions } from 'node:dns';
import { isIP } from 'node:net';
import ipaddr from 'ipaddr.js';
import { CoreError } from '@back-again/core';

/**
 * Where messages for closed windows may go. The address comes from a browser, so from anyone: it is of the open
 * internet alone, by HTTPS, and never of the network that the server stands in (OWASP ASVS 5.0, 1.3.6).
 */

const WRONG = () =>
  new CoreError(
    'device.address',
    'endpoint',
    'That is no address of a push service: it begins with https:// and is on the open internet.',
  );

/** Whether an address of the network belongs to anybody on the open internet (IANA special-purpose registries). */
export function isOpen(address: string): boolean {
  return ipaddr.isValid(address) && ipaddr.process(address).range() === 'unicast';
}

/**
 * Checks the address of a subscription as far as it can be read; the names in it are looked up as it is used.
 * @param anywhere for tests: loopback without HTTPS too
 * @throws CoreError `device.address`
 */
export function checkEndpoint(endpoint: string, anywhere: boolean): void {
  if (!URL.canParse(endpoint)) throw WRONG();
  const { protocol, hostname, username, password } = new URL(endpoint);
  if (username || password) throw WRONG();
  if (anywhere) return;
  const host = hostname.replace(/^\[|\]$/gu, '');
  if (protocol !== 'https:' || (isIP(host) ? !isOpen(host) : !host.includes('.'))) throw WRONG();
}

type Found = (
  error: NodeJS.ErrnoException | null,
  address: string | LookupAddress[],
  family?: number,
) => void;

/** Looks a name up, and refuses it where it leads to the network that the server stands in. */
export function openLookup(name: string, options: LookupOptions, found: Found): void {
  ask(name, { ...options, all: true }, (error, addresses) => {
    const closed = addresses?.find(({ address }) => !isOpen(address));
    if (error || closed || !addresses.length)
      return found(error ?? new Error(`${name} is not on the open internet.`), []);
    if (options.all) return found(null, addresses);
    const [{ address, family }] = addresses as [LookupAddress];
    found(null, address, family);
  });
}
