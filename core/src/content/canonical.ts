/** Text that is canonical at first sight: no controls, and below the first combining mark, or general punctuation. */
const PLAIN = /^[ -~\u00a0-\u02ff\u2010-\u2027\u2030-\u205e]*$/;
/** Control characters but for tab, line ends and what stands for erased text, the byte order mark, and interlinear annotation signs. */
const CONTROLS = /(?![\t\n\r\u007f\u2028])[\p{Cc}\ufeff\ufff9-\ufffb]/gu;

/**
 * Text in canonical form: Unicode NFC, no control characters but what stands for erased text; outside code, line ends and tabs are spaces.
 * Source: Unicode Standard Annex #15 (Normalization Forms).
 */
export function canonicalText(text: string, code: boolean): string {
  if (PLAIN.test(text)) return text;
  const lines = text
    .normalize('NFC')
    .replace(CONTROLS, '')
    .replace(/\r\n?|\u2028|\u2029/g, '\n');
  return code ? lines : lines.replace(/[\n\t]/g, ' ');
}

/** Whether a text holds half of a surrogate pair. */
export function hasLoneSurrogate(text: string): boolean {
  return /\p{Surrogate}/u.test(text);
}

/** Whether a plain JSON value is nested no deeper than `limit` and holds at most `nodes` objects and lists. Never recurses. */
export function isBounded(value: unknown, limit: number, nodes: number): boolean {
  const stack: { value: unknown; depth: number }[] = [{ value, depth: 0 }];
  let seen = 0;
  for (let item = stack.pop(); item; item = stack.pop()) {
    if (typeof item.value !== 'object' || item.value === null) continue;
    if (item.depth > limit || ++seen > nodes) return false;
    for (const child of Object.values(item.value)) stack.push({ value: child, depth: item.depth + 1 });
  }
  return true;
}
