import { onMounted, shallowRef, type ShallowRef } from "vue";
import { asFault, client, take, type Fault, type Knowledge } from "../api/client";

let known: Promise<Knowledge> | null = null;

/** Pests, measures and the rules' numbers: they do not change while the program runs. */
export function fetchKnowledge(): Promise<Knowledge> {
  known ??= take(client.GET("/api/knowledge")).catch((thrown: unknown) => {
    known = null; // asked again the next time
    throw thrown;
  });
  return known;
}

/** What the program knows, fetched once for all pages. */
export function useKnowledge(): { knowledge: ShallowRef<Knowledge | null>; fault: ShallowRef<Fault | null> } {
  const knowledge = shallowRef<Knowledge | null>(null);
  const fault = shallowRef<Fault | null>(null);
  onMounted(async () => {
    try {
      knowledge.value = await fetchKnowledge();
    } catch (thrown) {
      fault.value = asFault(thrown);
    }
  });
  return { knowledge, fault };
}
