// One hand for all pots: its colours are read once for each theme, zoom and set of letters.
import { computed, ref } from "vue";
import { inkAt, type PotInk } from "../charts/potPaint";
import { useTheme } from "./useTheme";

const turns = ref(0);
const again = (): void => {
  turns.value++;
};
const theme = useTheme();
let fine = window.devicePixelRatio;

// Zooming, or a window that goes to another screen.
window.addEventListener("resize", () => {
  if (window.devicePixelRatio === fine) return;
  fine = window.devicePixelRatio;
  again();
});
// Letters that arrive after the first picture; not every browser tells.
(document.fonts as FontFaceSet | undefined)?.addEventListener("loadingdone", again);

let read: { of: string; ink: PotInk } | null = null;
const state = computed(() => `${theme.value} ${turns.value}`);

/** The ink in force at a pot; asked for inside an effect, it is asked again when the theme or the screen changes. */
export function potInk(pot: Element): PotInk {
  const of = state.value;
  if (read?.of !== of) read = { of, ink: inkAt(pot) };
  return read.ink;
}
