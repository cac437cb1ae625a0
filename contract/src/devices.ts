import { object, string, type InferType } from 'yup';

/** Devices that are told of reminders while no window is open (W3C Push API). */

/** Text of a subscription: base64url without padding (RFC 4648 §5), of so many bytes. */
const bytes = (label: string, length: number) =>
  string()
    .strict()
    .typeError(`${label} is text.`)
    .required(`${label} is missing.`)
    .matches(
      new RegExp(`^[A-Za-z0-9_-]{${Math.ceil((length * 4) / 3)}}$`, 'u'),
      `${label} is no ${length} bytes in base64url.`,
    );

/** The most characters of the name of a device. */
export const MOST_DEVICE_NAME = 60;

export const deviceSchema = object({
  name: string()
    .strict()
    .typeError('A name is text.')
    .trim()
    .required('Give the device a name.')
    .max(MOST_DEVICE_NAME, `A name has ${MOST_DEVICE_NAME} characters at most.`),
  /** Where the browser’s push service takes messages for it (RFC 8030 §4). */
  endpoint: string()
    .strict()
    .typeError('The address is text.')
    .required('The address is missing.')
    .max(1000, 'The address has 1,000 characters at most.'),
  /** With what they are sealed (RFC 8291 §2): its public key on P-256, uncompressed, and a secret of 16 bytes. */
  keys: object({ p256dh: bytes('The key', 65), auth: bytes('The secret', 16) })
    .noUnknown()
    .strict(),
})
  .noUnknown()
  .strict();
export type DeviceBody = InferType<typeof deviceSchema>;

export interface DeviceView {
  id: string;
  name: string;
  /** By this a browser knows whether it is its own: SHA-256 of the address, in hexadecimal digits. */
  sum: string;
  createdAt: string;
  /** When something was last handed over for it; null for never. */
  usedAt: string | null;
}

export interface DevicesView {
  /** The key that a browser subscribes with (RFC 8292 §3.2), base64url; null where this program reaches no closed windows. */
  key: string | null;
  devices: DeviceView[];
}

/** What a notification is about, as it goes to a device: JSON, sealed. */
export interface Pushed {
  /** The id of the notice: the same one again takes the place of the first. */
  id: string;
  title: string;
  body: string;
  /** What finishes or puts off its time without a session; absent where there is none. */
  token?: string;
}

export const pushedSchema = object({
  do: string<'done' | 'later'>()
    .strict()
    .oneOf(['done', 'later'], 'It is “done” or “later”.')
    .required('Say what is done.'),
})
  .noUnknown()
  .strict();

/** What became of it, in words. */
export interface PushedView {
  words: string;
}
