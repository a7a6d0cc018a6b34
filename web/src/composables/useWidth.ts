import { onMounted, onScopeDispose, ref, type Ref } from "vue";

/** The width of an element in CSS pixels, followed as it changes; for pictures drawn to size. */
export function useWidth(element: Ref<HTMLElement | null>, start: number): Ref<number> {
  const width = ref(start);
  const observer = new ResizeObserver(([entry]) => {
    if (entry) width.value = Math.round(entry.contentRect.width);
  });
  onMounted(() => {
    if (element.value) observer.observe(element.value);
  });
  onScopeDispose(() => observer.disconnect());
  return width;
}
