import type { MessageChannel } from '@back-again/contract';

/** A message as it is handed over. */
export interface Outgoing {
  /** The same id twice is the same message: who carries it must let it arrive once. */
  id: string;
  userId: string;
  channel: MessageChannel;
  /** An e-mail address, or a telephone number (ITU-T E.164). */
  address: string;
  subject: string;
  text: string;
}

/** Who carries e-mail and text messages. */
export interface Carrier {
  /**
   * Hands a message over; once it returns the message is on its way.
   * @throws Error where that is not known: it is then handed over again, with its id
   */
  send(message: Outgoing): Promise<void>;
}
