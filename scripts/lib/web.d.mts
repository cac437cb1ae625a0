/** Where the built app lies. */
export const WEB: string;
/** Builds the web bundle where it is stale; gives its folder. */
export function buildWeb(): Promise<string>;
