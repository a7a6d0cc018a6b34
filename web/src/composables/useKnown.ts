import { computed, watch, type ComputedRef } from "vue";
import { client, take, type Schemas } from "../api/client";
import { useAnswer } from "./useAnswer";

/** What own trials found of the remedies against a pest; nothing where it cannot be asked. */
export function useKnown(pest: () => string): ComputedRef<Schemas["KnownRemedyOut"][]> {
  const answer = useAnswer(async () => (pest() ? take(client.GET("/api/known/{pest}", { params: { path: { pest: pest() } } })) : null));
  watch(pest, answer.load, { immediate: true });
  return computed(() => answer.data.value?.remedies ?? []);
}
