export function startProgram(
  env: Record<string, string>,
  onLine?: (line: string) => void,
): Promise<{
  url: string;
  pid: number;
  ended: Promise<number | null>;
  stop(signal?: NodeJS.Signals): Promise<void>;
}>;
