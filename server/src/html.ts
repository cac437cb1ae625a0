const SIGNS: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** Text as it stands in HTML, between tags and in attributes with double quotes (WHATWG HTML §13.3, escaping a string). */
export const escaped = (text: string): string => text.replace(/[&<>"]/gu, (sign) => SIGNS[sign]!);
