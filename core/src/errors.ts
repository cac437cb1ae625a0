/**
 * What is wrong with something that was handed to the core: a stable `code` for programs, the
 * `where` (a path such as `repeat.rule` or the piece of text), and words for a person.
 */
export class CoreError extends Error {
  readonly code: string;
  readonly where: string;

  constructor(code: string, where: string, message: string) {
    super(message);
    this.name = 'CoreError';
    this.code = code;
    this.where = where;
  }
}
