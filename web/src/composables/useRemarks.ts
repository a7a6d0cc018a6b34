import { onScopeDispose, ref, watch, type Ref } from "vue";
import { client, take, type Schemas } from "../api/client";

export type Remark = Schemas["RemarkOut"];

const WAIT = 400; // ms without a key before the plan is reviewed

/** The critic's remarks on a plan that is still being said; none while it is no question yet. */
export function useRemarks(wanted: () => Schemas["RemarksIn"] | null): Ref<readonly Remark[]> {
  const found = ref<readonly Remark[]>([]);
  let timer: ReturnType<typeof setTimeout> | undefined;
  let newest = 0;
  onScopeDispose(() => clearTimeout(timer));
  watch(
    () => JSON.stringify(wanted()),
    () => {
      clearTimeout(timer);
      const mine = ++newest;
      const body = wanted();
      if (!body) {
        found.value = [];
        return;
      }
      timer = setTimeout(async () => {
        const answer = await take(client.POST("/api/queries/remarks", { body })).catch(() => []);
        if (mine === newest) found.value = answer;
      }, WAIT);
    },
    { immediate: true },
  );
  return found;
}
