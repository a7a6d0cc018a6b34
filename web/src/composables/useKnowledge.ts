import { onBeforeUnmount, onMounted, shallowRef, type ShallowRef } from "vue";
import { asFault, client, take, type Fault, type Knowledge } from "../api/client";

let known: Promise<Knowledge> | null = null;
/** Pages that show it now: a pest kept on one of them is there on all. */
const shown = new Set<ShallowRef<Knowledge | null>>();

/** Pests, measures and the rules' numbers: they do not change while the program runs. */
export function fetchKnowledge(): Promise<Knowledge> {
  known ??= withOwn().catch((thrown: unknown) => {
    known = null; // asked again the next time
    throw thrown;
  });
  return known;
}

/** What is shipped, and the gardener's own pests before it. */
async function withOwn(): Promise<Knowledge> {
  const [shipped, own] = await Promise.all([take(client.GET("/api/knowledge")), take(client.GET("/api/own-pests")).catch(() => [])]);
  return { ...shipped, pests: [...own, ...shipped.pests] };
}

/** Asks for it again, after a pest was kept or taken off the list. */
export async function learnPests(): Promise<void> {
  known = null;
  const now = await fetchKnowledge();
  for (const one of shown) one.value = now;
}

/** What the program knows, fetched once for all pages. */
export function useKnowledge(): { knowledge: ShallowRef<Knowledge | null>; fault: ShallowRef<Fault | null> } {
  const knowledge = shallowRef<Knowledge | null>(null);
  const fault = shallowRef<Fault | null>(null);
  onBeforeUnmount(() => shown.delete(knowledge));
  onMounted(async () => {
    shown.add(knowledge);
    try {
      knowledge.value = await fetchKnowledge();
    } catch (thrown) {
      fault.value = asFault(thrown);
    }
  });
  return { knowledge, fault };
}
