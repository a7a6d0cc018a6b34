import { ref, watch, type Ref } from "vue";
import { asFault, client, take, type Fault, type Schemas } from "../api/client";
import type { RemedyIn, Setup } from "../question";

type Wanted = { pest: string; setup: Setup; shelf?: number };

/** The remedies that are known, with what speaks against each for this pest and these plants. */
export function useCatalogue(wanted: () => Wanted): {
  list: Ref<Schemas["CatalogueOut"][]>;
  /** The pest that the list was made for. */
  listedFor: Ref<string>;
  fault: Ref<Fault | null>;
  make: (body: Schemas["ProposalIn"]) => Promise<RemedyIn[]>;
} {
  const list = ref<Schemas["CatalogueOut"][]>([]);
  const listedFor = ref("");
  const fault = ref<Fault | null>(null);
  let newest = 0;

  watch(
    () => JSON.stringify(wanted()),
    async () => {
      const mine = ++newest;
      const { pest, setup } = wanted();
      try {
        const found = await take(client.POST("/api/queries/remedies", { body: { pest, setup } }));
        if (mine !== newest) return;
        list.value = found;
        listedFor.value = pest;
      } catch (thrown) {
        fault.value = asFault(thrown);
      }
    },
    { immediate: true },
  );

  /** Remedies as a question takes them: the shipped ones, a ladder's rungs or a square's corners. */
  async function make(body: Schemas["ProposalIn"]): Promise<RemedyIn[]> {
    try {
      fault.value = null;
      return (await take(client.POST("/api/queries/proposal", { body }))).remedies;
    } catch (thrown) {
      fault.value = asFault(thrown);
      return [];
    }
  }

  return { list, listedFor, fault, make };
}
