// A button that counts when a finger lands on it, not when it leaves.
import type { ObjectDirective } from "vue";

export interface Press {
  /** Done at the touch, and at the press of a key. */
  run: () => void;
  /** Takes it back: the finger slid off, or began to scroll. */
  back: () => void;
}

interface Held {
  press: Press;
  /** The pointers whose press was counted; their click is the same press again. */
  counted: Set<number>;
}

const held = new WeakMap<HTMLElement, Held>();

/**
 * Counts a press at once. A finger that slides off before it lets go, or scrolls, takes it back, as
 * it would never have clicked; a click without a press before it (a key, a screen reader) counts.
 */
export const vPress: ObjectDirective<HTMLElement, Press> = {
  mounted: (el, { value }) => {
    const state: Held = { press: value, counted: new Set() };
    held.set(el, state);
    el.addEventListener("pointerdown", (event) => {
      if (event.button !== 0 || el.matches(":disabled")) return;
      if (event.pointerType === "mouse") el.setPointerCapture(event.pointerId);
      state.counted.add(event.pointerId);
      state.press.run();
    });
    el.addEventListener("pointerup", (event) => {
      if (!isInside(el, event)) takeBack(state, event);
    });
    el.addEventListener("pointercancel", (event) => takeBack(state, event));
    el.addEventListener("click", (event) => {
      if (!isCounted(state, event)) state.press.run();
    });
  },
  updated: (el, { value }) => {
    const state = held.get(el);
    if (state) state.press = value;
  },
};

function takeBack(state: Held, { pointerId, pointerType }: PointerEvent): void {
  if (!state.counted.has(pointerId)) return;
  // A mouse that was let go beside the button still clicks it, for the button holds it.
  if (pointerType !== "mouse") state.counted.delete(pointerId);
  state.press.back();
}

/** Whether a click is the end of a press that was counted; those of keys and helping programs are not. */
function isCounted({ counted }: Held, event: MouseEvent): boolean {
  const pointer = event as Partial<PointerEvent>;
  if (pointer.pointerType === "" || event.detail === 0) return false;
  const known = pointer.pointerId === undefined ? counted.size > 0 : counted.has(pointer.pointerId);
  if (pointer.pointerId === undefined) counted.clear();
  else counted.delete(pointer.pointerId);
  return known;
}

function isInside(el: HTMLElement, { clientX, clientY }: PointerEvent): boolean {
  const { left, right, top, bottom } = el.getBoundingClientRect();
  return clientX >= left && clientX <= right && clientY >= top && clientY <= bottom;
}
