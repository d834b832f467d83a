import type { Schemas } from '../../api/client';

type Marks = Schemas['ScaleOut']['marks'];

/** Refractive index at a value of the scale; beyond either end with the slope there. */
export function indexAt(marks: Marks, value: number): number {
  return between(
    marks.map((mark) => [mark.value, mark.index]),
    value,
  );
}

/** The value at a refractive index; the inverse of indexAt. */
export function valueAt(marks: Marks, index: number): number {
  return between(
    marks.map((mark) => [mark.index, mark.value]),
    index,
  );
}

/** Straight lines between points that rise or fall all along. */
function between(points: [number, number][], x: number): number {
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last) return 0;
  const rising = last[0] > first[0];
  const past = (at: number) => (rising ? at > x : at < x);
  const i = Math.min(
    Math.max(
      points.findIndex(([at]) => past(at)),
      1,
    ),
    points.length - 1,
  );
  const after = points.findIndex(([at]) => past(at)) === -1 ? points.length - 1 : i;
  const [a, b] = [points[after - 1], points[after]];
  if (!a || !b) return 0;
  return a[1] + ((x - a[0]) / (b[0] - a[0])) * (b[1] - a[1]);
}
