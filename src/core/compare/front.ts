/** A candidate by what is to be small of it. */
export interface Point {
  bytes: number;
  /** 0 to −4: high is good. */
  grade: number;
}

/** Which of them no other beats: none is as small and as good, and better in one of both. */
export function unbeaten(points: readonly Point[]): boolean[] {
  return points.map(
    (own) =>
      !points.some(
        (other) =>
          other.bytes <= own.bytes &&
          other.grade >= own.grade &&
          (other.bytes < own.bytes || other.grade > own.grade),
      ),
  );
}
