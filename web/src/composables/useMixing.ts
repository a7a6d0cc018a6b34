// The mixing bench: what is asked, and what the program makes of it.
import { computed, inject, onMounted, provide, reactive, ref, watch, type InjectionKey } from "vue";
import { asFault, client, take, type Fault, type Schemas } from "../api/client";
import { need } from "../entered";
import { readNumber } from "../words";
import { kept, shown } from "../units";
import { useAnswer } from "./useAnswer";
import { useSoon } from "./useSoon";

export type MixMode = "recipe" | "strength" | "parts" | "convert";
export type Mixing = ReturnType<typeof makeBench>;

const VOLUME = 750; // ml, to begin with
const EACH = 40; // ml a plant, typical
const TYPED_MS = 120; // between the last key and the reading
const key: InjectionKey<Mixing> = Symbol("mixing");

/** `start` is what another page asked for: a recipe, and for how many plants. */
function makeBench(start: { recipe?: string | undefined; plants?: string | undefined }) {
  const form = reactive({
    shipped: undefined as string | undefined,
    mode: "recipe" as MixMode,
    text: start.recipe ?? "10 ml oil and 2 ml soap in 1 litre",
    other: "",
    flame: false,
    region: "metric" as Schemas["Region"],
    by: (start.plants ? "plants" : "volume") as "volume" | "bottle" | "plants",
    volume: String(VOLUME),
    bottle: 1000,
    plants: start.plants ?? "18",
    each: String(EACH),
    margin: "10",
    tools: [] as string[],
    stock: "3",
    strength: "0.5",
    parts: "10",
    second: "20",
    altogether: true,
    amount: "1",
    unit: "tbsp_us",
    density: "",
  });
  const bottles = ref<number[]>([1000]);
  const units = useAnswer(() => take(client.GET("/api/units")));
  const recipes = useAnswer(() => take(client.GET("/api/recipes")));
  const converted = useAnswer(() =>
    take(
      client.POST("/api/queries/conversion", {
        body: { amount: readNumber(form.amount) ?? 0, unit: form.unit, grams_per_ml: form.density.trim() ? (readNumber(form.density) ?? 0) : null },
      }),
    ),
  );
  const tools = useAnswer(() => take(client.GET("/api/tools")));
  const currency = ref("€");
  const soon = useSoon(() => void make(), TYPED_MS);
  const asked = ref<Fault | null>(null);
  const mix = useAnswer(() =>
    take(client.POST("/api/queries/mix", { body: { text: form.text, compare_with: form.other, near_flame: form.flame, ...wanted() } })),
  );
  const readText = ref("");
  const reading = useAnswer(async () => {
    const text = form.text;
    const found = await take(client.POST("/api/queries/reading", { body: { text, region: form.region, near_flame: form.flame } }));
    readText.value = text;
    return found;
  });
  const weaker = useAnswer(() => {
    const byStrength = form.mode === "strength";
    const parts = [form.parts, form.second].map(readNumber).filter((n): n is number => n !== undefined);
    return take(
      client.POST("/api/queries/dilution", {
        body: {
          stock: byStrength ? (readNumber(form.stock) ?? 0) : null,
          strength: byStrength ? (readNumber(form.strength) ?? 0) : null,
          parts: byStrength ? [] : parts,
          altogether: form.altogether,
          ...wanted(),
        },
      }),
    );
  });
  const working = computed(() => (form.mode === "recipe" ? mix : form.mode === "convert" ? converted : weaker));
  const fault = computed(() => asked.value ?? working.value.fault.value);
  const found = computed(() => (form.mode === "recipe" && !fault.value ? mix.data.value : null));
  const diluted = computed(() => ((form.mode === "strength" || form.mode === "parts") && !fault.value ? weaker.data.value : null));
  const others = computed(() => (form.mode === "convert" && !fault.value ? converted.data.value : null));
  const beside = ["text", "parts", "volume", "plants", "each", "ml_per_plant", "margin", "stock", "wanted", "strength", "amount", "density", "grams_per_ml"];

  watch(form, soon, { deep: true }); // what is typed is read at once
  onMounted(async () => {
    await Promise.all([tools.load(), units.load(), recipes.load()]);
    try {
      const yard = await take(client.GET("/api/yard"));
      form.tools = yard.tools;
      form.region = yard.region ?? "metric";
      bottles.value = yard.bottles;
      form.bottle = yard.bottles.at(-1) ?? 1000;
      currency.value = yard.currency;
      if (form.volume === String(VOLUME)) form.volume = shown(VOLUME, "volume");
      if (form.each === String(EACH)) form.each = shown(EACH, "volume");
    } catch {
      form.tools = ["syringe_10", "tsp", "jug", "scale"]; // the yard could not be asked; usual tools
    }
    await make();
  });

  function wanted() {
    const numbers = Object.fromEntries((["volume", "plants", "each", "margin"] as const).map((key) => [key, readNumber(form[key])]));
    return {
      region: form.region,
      tools: form.tools,
      volume: form.by === "volume" ? kept(numbers["volume"] ?? 0, "volume", VOLUME) : null,
      bottle: form.by === "bottle" ? form.bottle : null,
      plants: form.by === "plants" ? Math.round(numbers["plants"] ?? 0) : null,
      ml_per_plant: kept(numbers["each"] ?? 0, "volume", EACH),
      margin: (numbers["margin"] ?? 0) / 100,
    };
  }

  async function make(): Promise<void> {
    const used: ("volume" | "plants" | "each" | "margin" | "stock" | "strength" | "parts" | "second" | "amount" | "density")[] =
      form.by === "volume" ? ["volume"] : form.by === "plants" ? ["plants", "each", "margin"] : [];
    if (form.mode === "strength") used.push("stock", "strength");
    if (form.mode === "parts") used.push("parts", ...(form.second.trim() ? (["second"] as const) : []));
    if (form.mode === "convert") used.splice(0, used.length, "amount", ...(form.density.trim() ? (["density"] as const) : []));
    asked.value = null;
    try {
      for (const key of used) need(form[key], key === "second" ? "parts" : key);
    } catch (thrown) {
      asked.value = asFault(thrown);
      return;
    }
    await Promise.all([working.value.load(), ...(form.mode === "recipe" ? [reading.load()] : [])]);
  }

  /** The sentence as a click corrected it. */
  function say(text: string): void {
    form.text = text;
    void make();
  }

  function takeShipped(key: string): void {
    say(recipes.data.value?.find((r) => r.key === key)?.recipe ?? form.text);
  }

  function choose(mode: MixMode): void {
    form.mode = mode;
    void make();
  }

  function at(...fields: string[]): Fault | null {
    return fault.value && fields.includes(fault.value.field ?? "") ? fault.value : null;
  }

  return { form, bottles, units, recipes, tools, currency, fault, found, diluted, others, beside, reading, readText, make, say, takeShipped, choose, at };
}

/** Sets the bench up for a page and what stands on it. */
export function provideMixing(start: Parameters<typeof makeBench>[0]): Mixing {
  const bench = makeBench(start);
  provide(key, bench);
  return bench;
}

export function useMixing(): Mixing {
  const bench = inject(key);
  if (!bench) throw new Error("useMixing is used outside the mixing bench");
  return bench;
}
