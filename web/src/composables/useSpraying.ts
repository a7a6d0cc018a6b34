// Walking through a spray round: the order of plants, where one stands, and what is recorded.
import { computed, reactive, ref, type ComputedRef, type Ref } from "vue";
import type { Plant, Remedy, Schemas, Tag, Trial } from "../api/client";
import { tagsByLetter } from "../charts/tag";

export type WalkOrder = "bottles" | "plants";
export type Mark = "open" | "sprayed" | "skipped";

export interface Stop {
  plant: Plant;
  tag: Tag;
  /** What the tag stands for; null while the key is sealed. */
  remedy: Remedy | null;
  mark: Mark;
}

export interface Details {
  volume: number;
  undersides: boolean;
  drifted: boolean;
  neighbour: number | null;
}

export interface Spraying {
  order: Ref<WalkOrder>;
  stops: ComputedRef<Stop[]>;
  index: Ref<number>;
  stop: ComputedRef<Stop | undefined>;
  done: ComputedRef<number>;
  details: Details;
  neighbours: ComputedRef<Plant[]>;
  /** What is sent for the plant where one stands. */
  entry: (kind: "sprayed" | "skipped", more?: { note?: string; deviation?: string }) => Schemas["SprayIn"];
  /** Goes on to the next plant that is still open. */
  next: () => void;
  /** Goes to the first plant that is open. */
  first: () => void;
  go: (to: number) => void;
}

export function useSpraying(
  trial: ComputedRef<Trial | null>,
  number: number,
  newKey: () => string,
  /** What is recorded on this device only, by plant. */
  kept: () => ReadonlyMap<number, "sprayed" | "skipped"> = () => new Map(),
): Spraying {
  const order = ref<WalkOrder>("bottles");
  const round = computed(() => trial.value?.rounds.find((r) => r.number === number));
  const stops = computed<Stop[]>(() => {
    const found = trial.value;
    if (!found) return [];
    const sprayed = new Set(round.value?.sprayed);
    const skipped = new Set(round.value?.skipped);
    const tags = tagsByLetter(found, round.value);
    const due = new Set(round.value?.due ?? found.walk);
    const walk = found.walk.flatMap((id) => {
      if (!due.has(id)) return [];
      const plant = found.plants.find((p) => p.id === id);
      const tag = tags.get(plant?.letter ?? "");
      if (!plant || !tag) return [];
      const remedy = found.remedies.find((r) => r.id === tag.remedy_id) ?? null;
      const mark: Mark = kept().get(id) ?? (sprayed.has(id) ? "sprayed" : skipped.has(id) ? "skipped" : "open");
      return [{ plant, tag, remedy, mark }];
    });
    if (order.value === "plants") return walk;
    // One bottle after the other: nobody rinses a sprayer at every plant.
    return walk
      .map((stop, k) => ({ stop, k }))
      .sort((a, b) => a.stop.tag.letter.localeCompare(b.stop.tag.letter) || a.k - b.k)
      .map(({ stop }) => stop);
  });
  const index = ref(
    Math.max(
      stops.value.findIndex((s) => s.mark === "open"),
      0,
    ),
  );
  const details = reactive<Details>(fresh());
  /** One key a plant: a second tap while the first is on its way is the same record. */
  let key = newKey();

  function fresh(): Details {
    return { volume: stops.value[index.value]?.tag.ml ?? trial.value?.care.ml_per_plant ?? 40, undersides: true, drifted: false, neighbour: null };
  }

  function go(to: number): void {
    index.value = Math.min(Math.max(to, 0), Math.max(stops.value.length - 1, 0));
    key = newKey();
    Object.assign(details, fresh());
  }

  const stop = computed(() => stops.value[index.value]);
  return {
    order,
    stops,
    index,
    stop,
    details,
    done: computed(() => stops.value.filter((s) => s.mark !== "open").length),
    neighbours: computed(() => {
      const here = stop.value?.plant;
      if (!here || !trial.value) return [];
      return trial.value.plants.filter((p) => p.id !== here.id && Math.abs(p.row - here.row) <= 1 && Math.abs(p.place - here.place) <= 1);
    }),
    entry: (kind, more = {}) => ({
      plant_id: stop.value?.plant.id ?? 0,
      kind,
      volume: kind === "sprayed" && stop.value?.tag.poured ? details.volume : null,
      undersides: details.undersides,
      drifted: details.drifted || details.neighbour !== null,
      neighbour_id: details.neighbour,
      deviation: more.deviation ?? "",
      note: more.note ?? "",
      // What was refused and is sent again as a deviation is another record.
      key: more.deviation ? newKey() : key,
    }),
    next: () => {
      const after = stops.value.findIndex((s, k) => k > index.value && s.mark === "open");
      const any = stops.value.findIndex((s) => s.mark === "open");
      go(after >= 0 ? after : any >= 0 ? any : index.value);
    },
    first: () => go(stops.value.findIndex((s) => s.mark === "open")),
    go,
  };
}
