export interface Mariadb {
  url: string;
  pid: number;
  stop(): Promise<void>;
}
export function startMariadb(
  folder: string,
  options?: { at?: string | null; tests?: boolean; most?: number | null },
): Promise<Mariadb>;
