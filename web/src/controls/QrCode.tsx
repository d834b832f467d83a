/** A code: runs of dark modules, one row after the other. */
export function QrCode({ rows, says }: { rows: string[]; says: string }) {
  const runs = rows.flatMap((row, y) =>
    [...row.matchAll(/1+/g)].map((run) => `M${run.index} ${y}h${run[0].length}v1h-${run[0].length}z`),
  );
  const size = rows.length;
  return (
    <svg
      className="qr"
      viewBox={`0 0 ${size} ${size}`}
      role="img"
      aria-label={`Code: ${says}`}
      shapeRendering="crispEdges"
    >
      <rect width={size} height={size} fill="#FFFFFF" />
      <path d={runs.join('')} fill="#101A20" />
    </svg>
  );
}
