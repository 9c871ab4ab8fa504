import type { Product } from "@/api/offers";
import { Button } from "@/ui/Button";
import { money } from "./words";

interface HeldPriceProps {
  product: Product;
  held: NonNullable<Product["held"]>;
  editor: boolean;
  busy: boolean;
  onDecide: (take: boolean) => void;
}

/** A price that differs so much that a person looks at it before readers do. */
export function HeldPrice({ product, held, editor, busy, onDecide }: HeldPriceProps) {
  return (
    <section aria-label="Held price" className="sheet-card border-ochre-mark border-l-4 p-5">
      <p>
        The shop now asks <strong>{money(held.price, held.currency)}</strong>, before{" "}
        {money(product.price, product.currency)}.{" "}
        {held.refused
          ? "Somebody has called it a mistake: readers see no price until the shop asks another."
          : "Readers see no price until somebody has looked at it."}
      </p>
      {editor && (
        <div className="mt-3 flex gap-2">
          <Button look="primary" busy={busy} onClick={() => onDecide(true)}>
            It is right
          </Button>
          {!held.refused && (
            <Button busy={busy} onClick={() => onDecide(false)}>
              It is a mistake
            </Button>
          )}
        </div>
      )}
    </section>
  );
}
