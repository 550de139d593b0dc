/** How many of two lists are the very same at the head, and of what is left at the tail. */
export function sharedEnds<T>(one: readonly T[], other: readonly T[]): { head: number; tail: number } {
  const most = Math.min(one.length, other.length);
  let head = 0;
  while (head < most && one[head] === other[head]) head++;
  let tail = 0;
  while (tail < most - head && one[one.length - 1 - tail] === other[other.length - 1 - tail]) tail++;
  return { head, tail };
}
