// Before and after of every plant: one line a plant, on a log scale that keeps zero.
import type { Course, Trial } from "../api/client";

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

/** Each plant of a tag, before and at a look; those counted both times. */
export function slopesOf(trial: Trial, course: Course, letter: string, lookNumber: number): Slope[] {
  return trial.plants.flatMap((plant) => {
    if (plant.letter !== letter) return [];
    const from = numberAt(course, 0, plant.id);
    const to = numberAt(course, lookNumber, plant.id);
    if (from === null || to === null) return [];
    return [{ plant: plant.name, plantId: plant.id, before: from, after: to }];
  });
}

/** The finished number on a plant at a look, per unit of effort or as a share. */
export function numberAt(course: Course, lookNumber: number, plantId: number): number | null {
  return course.values[plantId]?.[course.looks.indexOf(lookNumber)] ?? null;
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
