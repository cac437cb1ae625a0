import { PNG } from 'pngjs';

/** Small pictures of the demo, drawn by the program. */

type Tint = readonly [red: number, green: number, blue: number];

const PAPER: Tint = [250, 245, 236];
const INK: Tint = [43, 27, 51];
const WAX: Tint = [222, 176, 88];
const CAPPED: Tint = [168, 116, 52];
const MOSS: Tint = [71, 101, 42];
const LATE: Tint = [168, 66, 15];

const [WIDE, HIGH] = [288, 216];

/** A picture of which each point has a tint, as a PNG. */
function drawn(tintAt: (x: number, y: number) => Tint): Buffer {
  const png = new PNG({ width: WIDE, height: HIGH });
  for (let y = 0; y < HIGH; y++)
    for (let x = 0; x < WIDE; x++) png.data.set([...tintAt(x, y), 255], (y * WIDE + x) * 4);
  return PNG.sync.write(png);
}

/** A frame of comb: capped brood in the middle, open cells around it, wood at the edges. */
export function frameOfComb(): Buffer {
  const [cell, row] = [18, 15];
  return drawn((x, y) => {
    if (x < 14 || x > WIDE - 15 || y < 22 || y > HIGH - 13) return CAPPED;
    const j = Math.floor(y / row);
    const shift = j % 2 ? cell / 2 : 0;
    const dx = ((x + shift) % cell) - cell / 2;
    const dy = (y % row) - row / 2;
    const away = Math.hypot(dx, dy);
    if (away > 6.6) return WAX;
    const fromMiddle = Math.hypot((x - WIDE / 2) / 1.4, y - HIGH / 2);
    return fromMiddle < 62 ? CAPPED : away > 5 ? WAX : PAPER;
  });
}

/** The gauge of the tank: its needle stands at a share of the whole. */
export function gauge(share: number): Buffer {
  const [cx, cy, radius] = [WIDE / 2, HIGH - 46, 128];
  const needle = Math.PI * (1 - share);
  return drawn((x, y) => {
    const [dx, dy] = [x - cx, cy - y];
    const away = Math.hypot(dx, dy);
    const angle = Math.atan2(dy, dx);
    if (away < 9) return INK;
    if (dy < 0) return PAPER;
    if (
      away < radius - 22 &&
      Math.abs(Math.sin(angle - needle)) * away < 3 &&
      Math.cos(angle - needle) > 0
    )
      return INK;
    if (away > radius - 14 && away < radius) return angle < Math.PI * 0.2 ? LATE : MOSS;
    return PAPER;
  });
}
