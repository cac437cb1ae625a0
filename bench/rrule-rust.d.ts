/** What is used of rrule-rust, which `npm run bench` installs for itself. */
declare module 'rrule-rust' {
  export class RRuleSet implements Iterable<{ toString(): string }> {
    static fromString(text: string): RRuleSet;
    readonly cache: { disable(): void };
    all(limit: number): { toString(): string }[];
    [Symbol.iterator](): Iterator<{ toString(): string }>;
  }
}
