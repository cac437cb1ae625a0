/** Files that a person takes along, and those that they bring. */

/** Lets the person choose a file. */
export function chooseFile(accept: string, onChosen: (file: File) => void): void {
  const input = document.createElement('input');
  input.type = 'file';
  input.accept = accept;
  input.onchange = () => {
    const [file] = input.files ?? [];
    if (file) onChosen(file);
  };
  input.click();
}

/** Fetches a file of this server, and hands it to the person. @returns what is wrong, in words */
export async function saveFrom(path: string, name: string): Promise<string | null> {
  const response = await fetch(path).catch(() => null);
  if (!response) return 'No connection: this needs the server.';
  if (!response.ok) {
    const { error } = (await response.json().catch(() => ({}))) as { error?: { message: string } };
    return error?.message ?? 'It could not be made.';
  }
  const url = URL.createObjectURL(await response.blob());
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
  return null;
}

/** A name that any system takes. */
export const plainName = (name: string) => name.replaceAll(/[\\/:*?"<>|]/gu, ' ').slice(0, 100);
