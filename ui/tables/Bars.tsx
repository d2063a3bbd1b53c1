/** Counts in ten equal bins, as tall as their logarithm: the few bad ones are what matters. */
export function Bars({ counts }: { counts: readonly number[] }) {
  const most = Math.log1p(Math.max(1, ...counts));
  return (
    <svg width="64" height="16" role="img" aria-label={`Counts in ten bins: ${counts.join(", ")}`}>
      {counts.map((n, k) => {
        const h = (15 * Math.log1p(n)) / most;
        return <rect key={k} x={k * 6.4} y={16 - h} width="5" height={h} fill="#27506B" />;
      })}
    </svg>
  );
}
