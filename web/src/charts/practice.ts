// How much of what is there was counted, on a line from half to twice.

const LEFT = 24;
const WIDTH = 352;

export const biasTicks = [0.5, 0.75, 1, 1.33, 2];

/** The place of a share counted in a picture 400 wide: equal factors lie equally far apart. */
export function biasX(share: number): number {
  const bounded = Math.min(Math.max(share, 0.4), 2.4);
  return Math.round(LEFT + (WIDTH * (Math.log2(bounded) + 1)) / 2);
}
