// A finger drawn across: to the next with a stroke to the left, back with one to the right.
const FAR = 60; // px
const STEEP = 0.6; // a stroke that goes more down than across scrolls

export function useSwipe(onward: () => void, back: () => void): { start: (event: TouchEvent) => void; end: (event: TouchEvent) => void } {
  let from: { x: number; y: number } | null = null;
  return {
    start: (event) => {
      const touch = event.touches.length === 1 ? event.touches[0] : undefined;
      from = touch ? { x: touch.clientX, y: touch.clientY } : null;
    },
    end: (event) => {
      const touch = event.changedTouches[0];
      if (!from || !touch) return;
      const [dx, dy] = [touch.clientX - from.x, touch.clientY - from.y];
      from = null;
      if (Math.abs(dx) < FAR || Math.abs(dy) > STEEP * Math.abs(dx)) return;
      if (dx < 0) onward();
      else back();
    },
  };
}
