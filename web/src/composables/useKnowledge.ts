import { onMounted, shallowRef, type ShallowRef } from "vue";
import { asFault, client, take, type Fault, type Knowledge } from "../api/client";

/** Pests and measures, fetched once for the page. */
export function useKnowledge(): { knowledge: ShallowRef<Knowledge | null>; fault: ShallowRef<Fault | null> } {
  const knowledge = shallowRef<Knowledge | null>(null);
  const fault = shallowRef<Fault | null>(null);
  onMounted(async () => {
    try {
      knowledge.value = await take(client.GET("/api/knowledge"));
    } catch (thrown) {
      fault.value = asFault(thrown);
    }
  });
  return { knowledge, fault };
}
