import { computed, ref, watch, type ComputedRef, type Ref } from "vue";
import { client, take, type Schemas } from "../api/client";
import type { QuestionDraft } from "../question";

type Crop = Schemas["CropOut"];

/** What the crop of a question is known by, and its ticks set by it. */
export function useCrop(form: Ref<QuestionDraft>): { crops: Ref<Crop[]>; crop: ComputedRef<Crop | null>; strange: ComputedRef<boolean> } {
  const crops = ref<Crop[]>([]);
  watch(
    () => form.value.start_on,
    async (on) => {
      if (!/^\d{4}-\d\d-\d\d$/.test(on)) return;
      crops.value = await take(client.GET("/api/crops", { params: { query: { on } } })).catch(() => crops.value);
    },
    { immediate: true },
  );
  const crop = computed(() => {
    const said = form.value.setup.crop?.trim().toLowerCase() ?? "";
    return crops.value.find((c) => c.name === said || c.other_names.includes(said)) ?? null;
  });
  /** Nobody knows here what they are: what the crop would answer is asked, above all whether it is eaten. */
  const strange = computed(() => !crop.value && crops.value.length > 0);

  // What a crop is known by is ticked for the gardener, when it is named and when the day moves; a
  // draft that comes back keeps what was ticked otherwise.
  let restored = Boolean(form.value.setup.crop?.trim());
  watch(
    () => (crop.value ? `${crop.value.key} ${crop.value.in_bloom}` : ""),
    (now) => {
      const found = crop.value;
      if (!now || !found) return;
      if (restored) {
        restored = false;
        return;
      }
      const { delicate, eaten, in_bloom } = found;
      Object.assign(form.value.setup, {
        delicate,
        eaten,
        in_bloom,
        harvest_on: eaten ? form.value.setup.harvest_on : null,
        picked: eaten && form.value.setup.picked,
      });
    },
  );

  watch(
    () => form.value.setup.eaten,
    (eaten) => {
      if (!eaten) form.value.setup.picked = false;
    },
  );

  return { crops, crop, strange };
}
