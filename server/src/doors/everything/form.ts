/**
 * The form in which everything of a person is taken out: a zip with `manifest.json`, and in `data/` a line of
 * JSON for each row (`docs/everything.md`). A form that was given out once can be read for ever.
 */
export const FORM = 1;

export const MANIFEST = 'manifest.json';
/** What is read when it is put back, in this order; the rest is for other programs. */
export const DATA = [
  'data/person.json',
  'data/places.jsonl',
  'data/todos.jsonl',
  'data/times.jsonl',
  'data/actions.jsonl',
  'data/steps.jsonl',
  'data/said.jsonl',
  'data/messages.jsonl',
  'data/mailbox.jsonl',
  'data/files.jsonl',
] as const;
export type DataName = (typeof DATA)[number];

export interface Manifest {
  program: 'Back Again';
  form: number;
  files: { name: string; size: number; sha256: string }[];
}

export const fileName = (id: string) => `files/${id}`;
