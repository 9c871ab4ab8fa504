export function Brand() {
  return (
    <span className="flex items-center gap-2 font-display text-base font-semibold text-white">
      <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden="true">
        <path d="M10 1 18 10 10 19 2 10Z" fill="none" stroke="#7FD6C2" strokeWidth="1.6" />
        <path d="M10 1 10 19M2 10 10 7 18 10" stroke="#7FD6C2" strokeWidth="1.2" fill="none" />
      </svg>
      Glyptarch
    </span>
  );
}
