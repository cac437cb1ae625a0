export interface Started {
  url: string;
  pid: number;
  ended: Promise<number | null>;
  stop(signal?: NodeJS.Signals): Promise<void>;
}
export function startProgram(
  env: Record<string, string>,
  onLine?: (line: string) => void,
  signal?: AbortSignal,
): Promise<Started>;
export function startProxy(
  to: readonly string[],
  port?: string,
  signal?: AbortSignal,
): Promise<Started>;
