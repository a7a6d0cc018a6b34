// The bottle: fill lines in the order of pouring, to scale, kept apart enough to be read.

export interface FillLine {
  level: number;
  y: number;
  labelY: number;
}

/** Height of a level in a bottle drawn `height` tall, measured from the top of its body. */
export function levelY(level: number, bottle: number, height: number): number {
  return height * (1 - Math.min(Math.max(level / bottle, 0), 1));
}

/** Lines at their true heights, with labels pushed up so that none covers another. */
export function fillLines(levels: readonly number[], bottle: number, height: number, apart: number): FillLine[] {
  let above = height + apart;
  return levels.map((level) => {
    const y = levelY(level, bottle, height);
    above = Math.min(y, above - apart);
    return { level, y, labelY: above };
  });
}
