/** A stretch of units. */
interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** What a unit below 128 may be part of: the name of a scheme, the name in front of an @, the name of a host. */
const [SCHEME, NAME, HOST] = [1, 2, 4];
const PARTS = Uint8Array.from({ length: 128 }, (_, unit) => {
  const sign = String.fromCharCode(unit);
  return (
    (/[A-Za-z0-9+.-]/.test(sign) ? SCHEME : 0) |
    (/[\w.+-]/.test(sign) ? NAME : 0) |
    (/[\w-]/.test(sign) ? HOST : 0)
  );
});

/** Signs at which an address ends: white space, angle brackets, double quotes. */
const EDGE = /[\s<>"“”]/;
/** Signs that an address does not end with, since they close the sentence round it. */
const CLOSING = new Set([...".,;:!?)]}'’»"].map((sign) => sign.charCodeAt(0)));
const EDGES = Uint8Array.from({ length: 128 }, (_, unit) => Number(EDGE.test(String.fromCharCode(unit))));

const [COLON, AT, DOT, SLASH] = [0x3a, 0x40, 0x2e, 0x2f];

/** Whether the units between two indexes hold a sign that every address has. */
export function mayHoldAddress(units: Uint16Array, from: number, to: number): boolean {
  for (let i = from; i < to; i++) {
    const unit = units[i];
    if (unit === DOT || unit === AT || unit === COLON) return true;
  }
  return false;
}

/** Where the run of units that an address may hold, which begins at `from`, ends; at `to` at the latest. */
export function endOfRun(units: Uint16Array, from: number, to: number): number {
  let at = from;
  while (at < to && !isEdge(units[at] as number)) at++;
  return at;
}

function isEdge(unit: number): boolean {
  return unit < 128 ? EDGES[unit] === 1 : EDGE.test(String.fromCharCode(unit));
}

/**
 * The address on the web or of a person in a run of units as `endOfRun` gives: the one that begins first. There is at most
 * one, since it reaches to the end of the run; what closes the sentence round it does not belong to it. One pass: for each
 * unit it is known where a scheme, and where a name, that goes on there began.
 */
export function addressIn(units: Uint16Array, from: number, end: number): Stretch | null {
  let to = end;
  while (to > from && CLOSING.has(units[to - 1] as number)) to--;
  let [first, scheme, name] = [-1, -1, -1];
  const found = (start: number, prefix: number): void => {
    if (start >= 0 && prefix < to && (first < 0 || start < first)) first = start;
  };
  for (let i = from; i < to; i++) {
    const unit = units[i] as number;
    if (unit === COLON && units[i + 1] === SLASH && units[i + 2] === SLASH) found(scheme, i + 3);
    if (unit === AT && isHost(units, i + 1, end)) found(name, i + 1);
    if (isLetter(unit) && isWww(units, i)) found(i, i + 4);
    const part = partOf(unit);
    if ((part & SCHEME) === 0) scheme = -1;
    else if (scheme < 0 && isLetter(unit)) scheme = i;
    if ((part & NAME) === 0) name = -1;
    else if (name < 0) name = i;
  }
  return first < 0 ? null : { from: first, to };
}

function partOf(unit: number): number {
  return unit < 128 ? (PARTS[unit] as number) : 0;
}

function isLetter(unit: number): boolean {
  return (unit >= 0x61 && unit <= 0x7a) || (unit >= 0x41 && unit <= 0x5a);
}

/** Whether the name of a host with a dot in it begins at an index. */
function isHost(units: Uint16Array, from: number, end: number): boolean {
  let at = from;
  while (at < end && (partOf(units[at] as number) & HOST) !== 0) at++;
  return at > from && at < end && units[at] === DOT;
}

function isWww(units: Uint16Array, at: number): boolean {
  for (let i = at; i < at + 3; i++) if (((units[i] as number) | 0x20) !== 0x77) return false;
  return units[at + 3] === DOT;
}
