import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { keys } from "@/api/keys";
import { nameSuccessor, offersQuery, type Product } from "@/api/offers";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Part } from "@/components/Part";
import { SearchBox } from "@/components/SearchBox";
import { Button } from "@/ui/Button";

/** The product that posts show in place of this one. */
export function Successor({ blog, product }: { blog: string; product: Product }) {
  const [search, setSearch] = useState("");
  const wanted = { search, state: "", shop: "", sort: "title", offset: 0 } as const;
  const found = useQuery({ ...offersQuery(blog, wanted), enabled: search.length > 1 });
  const naming = useChange((key: string) => nameSuccessor(blog, product.id, key), {
    refresh: [keys.offers(blog)],
    onDone: () => setSearch(""),
  });
  const others = search.length > 1 ? (found.data?.rows ?? []).filter(({ id }) => id !== product.id) : [];
  return (
    <Part
      title="Successor"
      text="Where a product is no longer sold, its posts can show another one in its place."
    >
      <FormError error={naming.error} />
      {product.successor ? (
        <p className="flex items-center gap-3">
          <span className="min-w-0 flex-1 truncate">Posts show “{product.successor_title}”.</span>
          <Button small busy={naming.isPending} onClick={() => naming.mutate("")}>
            Show this product again
          </Button>
        </p>
      ) : (
        <>
          <SearchBox label="Find the successor" value={search} onChange={setSearch} />
          <ul className="mt-2">
            {others.slice(0, 6).map((other) => (
              <li key={other.id} className="flex items-center gap-3 border-line2 border-t py-1">
                <span className="min-w-0 flex-1 truncate">
                  {other.title} <span className="text-ink3 text-xs">{other.number}</span>
                </span>
                <Button small busy={naming.isPending} onClick={() => naming.mutate(other.key)}>
                  Takes its place
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
    </Part>
  );
}
