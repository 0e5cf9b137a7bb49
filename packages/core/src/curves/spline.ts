/** Points in rising order of their first number. */
type Points = readonly (readonly [number, number])[];

/** Slopes at the points that keep the cubic between them from turning round. Fritsch and Carlson, SIAM J. Numer. Anal. 17 (1980), 238. */
function slopesOf(points: Points): number[] {
  const secants = points.slice(1).map(([x, y], index) => {
    const [x0, y0] = points[index] as Points[number];
    return (y - y0) / (x - x0);
  });
  const slopes = points.map((_, index) => {
    const [before, after] = [secants[index - 1], secants[index]];
    if (before === undefined || after === undefined) return before ?? after ?? 0;
    return before * after <= 0 ? 0 : (before + after) / 2;
  });
  secants.forEach((secant, index) => {
    if (secant === 0) {
      slopes[index] = 0;
      slopes[index + 1] = 0;
      return;
    }
    const [a, b] = [(slopes[index] as number) / secant, (slopes[index + 1] as number) / secant];
    const length = Math.hypot(a, b);
    if (length <= 3) return;
    slopes[index] = (3 / length) * a * secant;
    slopes[index + 1] = (3 / length) * b * secant;
  });
  return slopes;
}

/**
 * The monotone cubic spline through points in rising order, continued in straight lines beyond both ends.
 * @param points two at least, no x twice
 */
export function monotoneSpline(points: Points): (x: number) => number {
  const slopes = slopesOf(points);
  return (x) => {
    const [first, last] = [points[0], points.at(-1)] as [Points[number], Points[number]];
    if (x <= first[0]) return first[1] + (slopes[0] as number) * (x - first[0]);
    if (x >= last[0]) return last[1] + (slopes.at(-1) as number) * (x - last[0]);
    const upper = points.findIndex(([at]) => at >= x);
    const [[x0, y0], [x1, y1]] = [points[upper - 1], points[upper]] as [Points[number], Points[number]];
    const width = x1 - x0;
    const part = (x - x0) / width;
    const [m0, m1] = [(slopes[upper - 1] as number) * width, (slopes[upper] as number) * width];
    const [square, cube] = [part ** 2, part ** 3];
    return (2 * cube - 3 * square + 1) * y0 + (cube - 2 * square + part) * m0 + (-2 * cube + 3 * square) * y1 + (cube - square) * m1;
  };
}
