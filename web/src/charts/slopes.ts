// Before and after of every plant: one line a plant, on a log scale that keeps zero.
import type { Trial } from "../api/client";

export interface Slope {
  plant: string;
  plantId: number;
  before: number;
  after: number;
}

/** Height (0 at the top) of a number on log(x + 1/2) between 0 and `top`. */
export function yOf(value: number, top: number, height: number): number {
  const scale = (x: number): number => Math.log(x + 0.5);
  return height * (1 - (scale(value) - scale(0)) / (scale(Math.max(top, 1)) - scale(0)));
}

/** Rates per unit of effort of each plant of a remedy, before and at a look. */
export function slopesOf(trial: Trial, remedyId: number, lookNumber: number): Slope[] {
  const before = trial.looks.find((look) => look.number === 0);
  const after = trial.looks.find((look) => look.number === lookNumber);
  return trial.plants.flatMap((plant) => {
    if (plant.remedy_id !== remedyId) return [];
    const from = numberAt(trial, before?.id, plant.id);
    const to = numberAt(trial, after?.id, plant.id);
    if (from === null || to === null) return [];
    return [{ plant: plant.name, plantId: plant.id, before: from, after: to }];
  });
}

/** The finished number of the trial's measure on a plant at a look, per unit of effort. */
export function numberAt(trial: Trial, lookId: number | undefined, plantId: number): number | null {
  const tally = trial.tallies.find(
    (t) =>
      t.look_id === lookId &&
      t.plant_id === plantId &&
      t.measure === trial.measure.key &&
      t.finished &&
      t.value !== null,
  );
  if (!tally || tally.value === null) return null;
  return tally.value / (tally.of ?? tally.effort);
}

/** Round marks for an axis on this scale: 0, 1, 3, 10, 30, … up to the top. */
export function axisMarks(top: number): number[] {
  const marks = [0];
  for (let decade = 1; decade <= top; decade *= 10) {
    marks.push(decade);
    if (decade * 3 <= top) marks.push(decade * 3);
  }
  return marks;
}
