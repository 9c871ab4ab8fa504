import { ArrowDown, ArrowUp } from "lucide-react";

interface MoveButtonsProps {
  name: string;
  index: number;
  count: number;
  onMove: (to: number) => void;
}

/** Moves an entry up or down. At an end a button does nothing and keeps the focus. */
export function MoveButtons({ name, index, count, onMove }: MoveButtonsProps) {
  if (count < 2) return null;
  const look = "inline-flex size-6 items-center justify-center hover:text-ink aria-disabled:opacity-30";
  return (
    <span className="whitespace-nowrap">
      <button
        type="button"
        aria-label={`Move ${name} up`}
        aria-disabled={index === 0}
        className={look}
        onClick={() => index > 0 && onMove(index - 1)}
      >
        <ArrowUp size={12} />
      </button>
      <button
        type="button"
        aria-label={`Move ${name} down`}
        aria-disabled={index === count - 1}
        className={look}
        onClick={() => index < count - 1 && onMove(index + 1)}
      >
        <ArrowDown size={12} />
      </button>
    </span>
  );
}
