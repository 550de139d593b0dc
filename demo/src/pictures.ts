import { PNG } from 'pngjs';

const [WIDTH, HEIGHT] = [900, 420];
type Colour = readonly [red: number, green: number, blue: number];
const PAPER: Colour = [255, 253, 248];
const WATER: Colour = [120, 176, 190];
const LINE: Colour = [14, 116, 144];
const POST: Colour = [183, 121, 31];

/** Colours of a drawing, column by column from the top: as PNG. */
function painted(at: (x: number, y: number) => Colour): Buffer {
  const image = new PNG({ width: WIDTH, height: HEIGHT });
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const [red, green, blue] = at(x, y);
      image.data.set([red, green, blue, 255], 4 * (y * WIDTH + x));
    }
  return PNG.sync.write(image);
}

/** Water over a day with two tides, and posts where the boats leave and come back. */
export function tideCurve(): Buffer {
  const level = (x: number): number => HEIGHT / 2 + (HEIGHT / 3) * Math.cos(4 * Math.PI * (x / WIDTH - 0.3));
  return painted((x, y) => {
    const surface = HEIGHT - level(x);
    if (Math.abs(x - 0.22 * WIDTH) < 3 || Math.abs(x - 0.4 * WIDTH) < 3) return POST;
    if (Math.abs(y - surface) < 3) return LINE;
    return y > surface ? WATER : PAPER;
  });
}

/** A boat from above, with six places in three pairs. */
export function boatPlan(): Buffer {
  const seats = [0.34, 0.52, 0.7].flatMap((x) => [0.38, 0.62].map((y) => [x * WIDTH, y * HEIGHT] as const));
  const half = (x: number): number => {
    const along = (x / WIDTH - 0.5) / 0.42;
    return Math.abs(along) > 1 ? -1 : (HEIGHT * 0.34 * (1 - along ** 4)) / (along > 0.4 ? 1 + along : 1);
  };
  return painted((x, y) => {
    const away = Math.abs(y - HEIGHT / 2);
    if (seats.some(([sx, sy]) => Math.hypot(x - sx, y - sy) < 26)) return LINE;
    if (Math.abs(away - half(x)) < 4) return POST;
    return away < half(x) ? [243, 232, 203] : PAPER;
  });
}
