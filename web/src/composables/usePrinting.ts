// Whether the page is being drawn for paper, where everything is drawn as outlines.
import { ref, type Ref } from "vue";

const paper = window.matchMedia("print");
const printing = ref(paper.matches);
const set = (now: boolean): void => {
  printing.value = now;
};
window.addEventListener("beforeprint", () => {
  set(true);
});
window.addEventListener("afterprint", () => {
  set(false);
});
paper.addEventListener("change", (event) => {
  set(event.matches);
});

export function usePrinting(): Readonly<Ref<boolean>> {
  return printing;
}
