import { ArrowDown, ArrowUp } from "lucide-react";

interface MoveButtonsProps {
  name: string;
  index: number;
  count: number;
  onMove: (to: number) => void;
}

/** Moves an entry of a list one place up or down; nothing where it is the only one. */
export function MoveButtons({ name, index, count, onMove }: MoveButtonsProps) {
  if (count < 2) return null;
  const look = "inline-flex size-6 items-center justify-center hover:text-ink disabled:opacity-30";
  return (
    <span className="whitespace-nowrap">
      <button
        type="button"
        aria-label={`Move ${name} up`}
        disabled={index === 0}
        className={look}
        onClick={() => onMove(index - 1)}
      >
        <ArrowUp size={12} />
      </button>
      <button
        type="button"
        aria-label={`Move ${name} down`}
        disabled={index === count - 1}
        className={look}
        onClick={() => onMove(index + 1)}
      >
        <ArrowDown size={12} />
      </button>
    </span>
  );
}
