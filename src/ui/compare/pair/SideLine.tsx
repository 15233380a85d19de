/** The line of one side in a picture of both: told apart by colour and by dashes. */
export function SideLine({ side, points }: { side: number; points: string }) {
  return (
    <polyline
      fill="none"
      className={side === 0 ? 'stroke-primary' : 'stroke-info'}
      strokeWidth={1.4}
      strokeDasharray={side === 0 ? undefined : '5 2'}
      vectorEffect="non-scaling-stroke"
      points={points}
    />
  );
}
