export interface Mariadb {
  url: string;
  pid: number;
  /** Where it listens. */
  at: string;
  /** Waits until it has ended. */
  ended: Promise<unknown>;
  stop(): Promise<void>;
}
export function startMariadb(
  folder: string,
  options?: {
    at?: string | null;
    tests?: boolean;
    most?: number | null;
    tls?: { port: number; key: string; cert: string } | null;
  },
): Promise<Mariadb>;
