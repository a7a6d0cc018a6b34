import { watch, type Ref } from "vue";

/** Brings an element into sight when something new is to be said in it and it is off the screen. */
export function useInSight(element: Readonly<Ref<HTMLElement | null>>, said: () => unknown): void {
  watch(
    said,
    (now) => {
      const shown = now ? element.value : null;
      const box = shown?.getBoundingClientRect();
      if (shown && box && (box.top < 0 || box.bottom > window.innerHeight)) shown.scrollIntoView({ block: "center" });
    },
    { flush: "post" },
  );
}
