// What the pots of a bench show: the match count, the counts of one look, or what is counted now.
import { computed, ref, type ComputedRef, type Ref } from "vue";
import type { Course, Plant, Tag, Trial } from "../api/client";
import { drawnOf, type PotState } from "../charts/pot";
import { numberAt } from "../charts/slopes";

type Look = Pick<Trial["looks"][number], "number" | "when">;

/** What is drawn of a trial on its bench. */
export interface BenchOf extends Pick<Trial, "shields" | "today"> {
  plants: readonly Plant[];
  tags: readonly Pick<Tag, "letter" | "notches">[];
  looks: readonly Look[];
  rounds: readonly Pick<Trial["rounds"][number], "on" | "sprayed">[];
  setup: Pick<Trial["setup"], "place_cm" | "row_cm"> & Partial<Pick<Trial["setup"], "unit">>;
  measure: Pick<Trial["measure"], "scale">;
  care?: Trial["care"];
  habit?: Trial["habit"];
}

export interface Shown {
  trial: BenchOf;
  figure: "match" | "course" | "done";
  course?: Course | null;
  now?: ReadonlyMap<number, number | null>;
}

export interface Pots {
  /** What a pot is drawn from. */
  stateOf: (plant: Plant) => PotState;
  /** The looks of which something is counted. */
  counted: ComputedRef<Look[]>;
  /** The place of the look chosen among them; null: the newest. */
  chosen: Ref<number | null>;
  /** The look that is shown. */
  shownLook: ComputedRef<Look | undefined>;
  valueOf: (plant: Plant) => number | null;
}

export function usePots(shown: Shown): Pots {
  const counted = computed(() =>
    shown.trial.looks.filter((look) => shown.trial.plants.some((p) => shown.course && numberAt(shown.course, look.number, p.id) !== null)),
  );
  const chosen = ref<number | null>(null);
  const shownLook = computed(() => counted.value[chosen.value ?? counted.value.length - 1]);
  const meanSize = computed(() => {
    const sizes = shown.trial.plants.flatMap((p) => p.size ?? []);
    return sizes.length ? sizes.reduce((sum, s) => sum + s, 0) / sizes.length : null;
  });
  /** Plants that were sprayed within the last day. */
  const wet = computed(() => {
    const last = shown.trial.rounds.filter((r) => r.sprayed.length).at(-1);
    return new Set(last && [shown.trial.today, dayBefore(shown.trial.today)].includes(last.on) ? last.sprayed : []);
  });

  function valueOf(plant: Plant): number | null {
    if (shown.figure === "match") return plant.match_count;
    if (shown.figure === "done") return shown.now?.get(plant.id) ?? null;
    return shownLook.value && shown.course ? numberAt(shown.course, shownLook.value.number, plant.id) : null;
  }

  function damageOf(plant: Plant): number | null {
    const look = shownLook.value;
    if (shown.figure !== "course" || !look || !shown.course) return null;
    return shown.course.damage[plant.id]?.[shown.course.looks.indexOf(look.number)] ?? null;
  }

  function stateOf(plant: Plant): PotState {
    const value = valueOf(plant);
    const disease = shown.trial.measure.scale === "percent";
    return {
      id: plant.id,
      size: meanSize.value && plant.size ? Math.min(Math.max(plant.size / meanSize.value, 0.7), 1.3) : 1,
      count: disease ? null : value,
      cover: disease && value !== null ? value / 100 : null,
      damage: damageOf(plant),
      habit: shown.trial.habit ?? null,
      drawn: drawnOf(shown.trial.setup.unit ?? "plant", plant.place),
      fresh: wet.value.has(plant.id) && (shown.figure !== "course" || shownLook.value === counted.value.at(-1)),
    };
  }

  return { stateOf, counted, chosen, shownLook, valueOf };
}

function dayBefore(iso: string): string {
  return new Date(Date.parse(`${iso}T00:00:00Z`) - 86_400_000).toISOString().slice(0, 10);
}
