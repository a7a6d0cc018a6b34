// The trial's thread: a line through its stations that sags a little between them.

export interface Knot {
  x: number;
  y: number;
}

/** Places of the stations along the thread. */
export function knots(count: number, width: number, y: number, margin: number): Knot[] {
  const step = count > 1 ? (width - 2 * margin) / (count - 1) : 0;
  return Array.from({ length: count }, (_, k) => ({ x: margin + k * step, y }));
}

/** Path of the thread between two knots. */
export function threadPath(from: Knot, to: Knot, sag: number): string {
  const third = (to.x - from.x) / 3;
  return `M${from.x} ${from.y}C${from.x + third} ${from.y + sag} ${to.x - third} ${to.y + sag} ${to.x} ${to.y}`;
}
