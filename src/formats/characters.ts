const controls = /[\p{Cc}\p{Bidi_Control}]/gu;

/**
 * A name or text of a design as one line for people: control characters would move a cursor, and bidirectional ones would show words in
 * another order than they stand in.
 */
export const visible = (text: string): string => text.replace(controls, '·');

/** The same for a text of several lines. */
export const visibleLines = (text: string): string => text.split('\n').map(visible).join('\n');

/** Without the control characters that XML 1.0 cannot hold. */
export const printable = (text: string): string =>
  text.replace(/[^\t\n\r\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu, ' ');
