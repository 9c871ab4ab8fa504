import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";
import { type OfferFilter, type OfferSort, type OfferState, offersQuery } from "@/api/offers";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { count } from "@/lib/format";
import { LibraryTabs } from "@/screens/library/LibraryTabs";
import { inputLook } from "@/ui/Field";
import { Scroll } from "@/ui/Scroll";
import { Segmented } from "@/ui/Segmented";
import { OfferRow } from "./OfferRow";
import { OfferTabs } from "./OfferTabs";
import { SORT_WORDS, STATE_WORDS } from "./words";

const ANY = "-any-";
const STATES = Object.keys(STATE_WORDS) as OfferState[];
const SORTS = Object.keys(SORT_WORDS) as OfferSort[];

/** The products of the blog with their prices, how old these are, and what readers see of them. */
export default function Offers() {
  const { blog = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const filter: OfferFilter = {
    search: params.get("search") ?? "",
    state: STATES.find((state) => state === params.get("state")) ?? "",
    shop: params.get("shop") ?? "",
    sort: SORTS.find((sort) => sort === params.get("sort")) ?? "title",
    offset: Number(params.get("offset") ?? 0),
  };
  const found = useQuery(offersQuery(blog, filter));
  const states = found.data?.states;
  const shops = found.data?.shops ?? [];
  const all = Object.values(states ?? {}).reduce((sum, number) => sum + number, 0);

  function set(next: Partial<OfferFilter>) {
    const merged = Object.entries({ ...filter, offset: 0, ...next });
    const kept = merged.filter(([key, value]) => value && !(key === "sort" && value === "title"));
    setParams(Object.fromEntries(kept.map(([key, value]) => [key, String(value)])), { replace: true });
  }

  return (
    <>
      <Head title="Offers" facts={<LibraryTabs />}>
        <SearchBox
          label="Find a product"
          value={filter.search}
          onChange={(search) => search !== filter.search && set({ search })}
        />
      </Head>
      <div className="flex shrink-0 flex-wrap items-center gap-3 border-line border-b bg-sheet px-4 py-2">
        <OfferTabs />
        <Segmented<OfferState | typeof ANY>
          label="What readers see"
          value={filter.state || ANY}
          onChange={(state) => set({ state: state === ANY ? "" : state })}
          options={[
            { value: ANY, label: `All ${count(all)}` },
            ...STATES.filter((state) => states?.[state] || state === filter.state).map((state) => ({
              value: state,
              label: `${STATE_WORDS[state]} ${count(states?.[state] ?? 0)}`,
            })),
          ]}
        />
        {shops.length > 1 && (
          <select
            aria-label="Shop"
            className={`${inputLook} !w-auto`}
            value={filter.shop}
            onChange={(event) => set({ shop: event.target.value })}
          >
            <option value="">all shops</option>
            {shops.map(({ shop, products }) => (
              <option key={shop} value={shop}>
                {shop} ({count(products)})
              </option>
            ))}
          </select>
        )}
        <select
          aria-label="Order"
          className={`${inputLook} !w-auto`}
          value={filter.sort}
          onChange={(event) => set({ sort: event.target.value as OfferSort })}
        >
          {SORTS.map((sort) => (
            <option key={sort} value={sort}>
              {SORT_WORDS[sort]}
            </option>
          ))}
        </select>
      </div>
      <Scroll label="Products" className="min-h-0 flex-1 p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {found.isPending && <Loading what="the products" />}
        {found.data?.total === 0 && (
          <Empty
            title={all ? "No product found" : "No product yet"}
            text={
              all
                ? "Change the filters above."
                : "A product comes with the items of a shop: a platform, a page reader or a JSON API whose items have a price. Write {% offer price %} into the body of a campaign, and its posts show the price as long as it is fresh."
            }
          />
        )}
        {found.data && found.data.total > 0 && (
          <div className="sheet-card">
            <ul aria-label="Products">
              {found.data.rows.map((product) => (
                <OfferRow key={product.id} blog={blog} product={product} />
              ))}
            </ul>
            <Paging
              offset={filter.offset}
              size={PAGE}
              total={found.data.total}
              onChange={(offset) => set({ offset })}
            />
          </div>
        )}
      </Scroll>
    </>
  );
}
