/** A stretch of a text. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** Something to look for in texts: where it stands in one, and how many words that are parted by white space it may have. */
export interface Sought {
  readonly words: number;
  find(text: string): Stretch[];
}

/** Letters as they are, in capitals or not, wherever they stand, also within words. */
export function soughtText(text: string): Sought {
  const wanted = small(text.trim());
  return {
    words: wanted.split(/\s+/).length,
    find(held) {
      const out: Stretch[] = [];
      const folded = small(held);
      if (wanted === '') return out;
      for (let at = folded.indexOf(wanted); at >= 0; at = folded.indexOf(wanted, at + wanted.length))
        out.push({ from: at, to: at + wanted.length });
      return out;
    },
  };
}

/** Small letters, where that leaves the text as long as it is. */
function small(text: string): string {
  const lower = text.toLowerCase();
  return lower.length === text.length ? lower : text;
}

const ACCOUNT = /(?<![\p{L}\p{N}])[A-Z]{2}\d{2}(?:[ \u00a0]?[A-Z0-9]){11,30}(?![\p{L}\p{N}])/giu;
const CARD = /(?<![\p{L}\p{N}])\d(?:[ \u00a0-]?\d){11,18}(?![\p{L}\p{N}])/gu;

/**
 * Account numbers as ISO 13616 writes them (IBAN), alone or in groups, whose check digits hold. Where more letters follow
 * behind a blank, the longest stretch that holds.
 */
export const soughtAccounts: Sought = {
  words: 10,
  find: (text) => checked(text, ACCOUNT, isAccount),
};

/** Numbers of payment cards (ISO/IEC 7812-1), 12 to 19 digits, alone or in groups, whose check digit holds. */
export const soughtCards: Sought = {
  words: 8,
  find: (text) => checked(text, CARD, isCard),
};

function checked(text: string, pattern: RegExp, holds: (number: string) => boolean): Stretch[] {
  const out: Stretch[] = [];
  for (const { index, 0: found } of text.matchAll(pattern)) {
    for (let end = found.length; end > 0; end = endBefore(found, end)) {
      if (!holds(found.slice(0, end).replace(/[\s\u00a0-]/g, ''))) continue;
      out.push({ from: index, to: index + end });
      break;
    }
  }
  return out;
}

/** Where the groups before the last one end; 0 where there is one only. */
function endBefore(text: string, end: number): number {
  const last = text.slice(0, end).search(/[\s\u00a0-][^\s\u00a0-]*$/u);
  return Math.max(0, last);
}

/** Whether the check digits of an account number hold: ISO/IEC 7064, MOD 97-10. */
export function isAccount(number: string): boolean {
  if (!/^[A-Z]{2}\d{2}[A-Z0-9]{11,30}$/i.test(number)) return false;
  const digits = (number.slice(4) + number.slice(0, 4)).toUpperCase();
  let rest = 0;
  for (const sign of digits) {
    const value = parseInt(sign, 36);
    rest = (rest * (value > 9 ? 100 : 10) + value) % 97;
  }
  return rest === 1;
}

/** Whether the check digit of a card number holds: ISO/IEC 7812-1, annex B (the Luhn formula). */
export function isCard(number: string): boolean {
  if (!/^\d{12,19}$/.test(number)) return false;
  const sum = [...number].reverse().reduce((all, digit, i) => {
    const value = Number(digit) * (i % 2 === 1 ? 2 : 1);
    return all + (value > 9 ? value - 9 : value);
  }, 0);
  return sum % 10 === 0;
}
