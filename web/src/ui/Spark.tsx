/** Small bars, one a day, oldest first. */
export function Spark({ days, label }: { days: readonly number[]; label: string }) {
  const most = Math.max(1, ...days);
  return (
    <svg
      viewBox={`0 0 ${days.length * 6} 20`}
      width={days.length * 6}
      height="20"
      role="img"
      aria-label={label}
    >
      {days.map((value, day) => {
        const height = value ? Math.max(2, (value / most) * 19) : 1;
        return (
          <rect
            // biome-ignore lint/suspicious/noArrayIndexKey: a day is known by its place
            key={day}
            x={day * 6}
            y={20 - height}
            width="4"
            height={height}
            className={value ? "fill-verd opacity-60" : "fill-line"}
          />
        );
      })}
    </svg>
  );
}
