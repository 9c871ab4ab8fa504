import { useQuery } from "@tanstack/react-query";
import { ExternalLink } from "lucide-react";
import { useParams } from "react-router";
import { keys } from "@/api/keys";
import { decidePrice, offerQuery, readOffer } from "@/api/offers";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { CopyText } from "@/components/CopyText";
import { ErrorNote } from "@/components/ErrorNote";
import { FormError } from "@/components/FormError";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { Part } from "@/components/Part";
import { Button } from "@/ui/Button";
import { Scroll } from "@/ui/Scroll";
import { useTell } from "@/ui/Toasts";
import { HeldPrice } from "./HeldPrice";
import { OfferFacts } from "./OfferFacts";
import { PastPrices } from "./PastPrices";
import { ShowingPosts } from "./ShowingPosts";
import { Successor } from "./Successor";

/** A product: what readers see of it, what it cost before, and the posts that show it. */
export default function OfferPage() {
  const { blog = "", number = "" } = useParams();
  const id = Number(number);
  const tell = useTell();
  const editor = useMay()("editor");
  const found = useQuery({ ...offerQuery(blog, id), refetchInterval: 15_000 });
  const refresh = [keys.offers(blog), keys.today(blog)];
  const reading = useChange(() => readOffer(blog, id), {
    refresh,
    onDone: () => tell("It is read within half a minute."),
  });
  const deciding = useChange((take: boolean) => decidePrice(blog, id, take), {
    refresh,
    onDone: ({ product }) =>
      tell(product.held ? "Readers see no price until the shop asks another." : "Readers see the new price."),
  });
  if (found.error) return <ErrorNote error={found.error} onRetry={found.refetch} />;
  if (!found.data) return <Loading what="the product" rows={4} />;
  const { product, past, posts } = found.data;
  return (
    <>
      <Head title={product.title} facts={<span className="text-ink3">{product.number}</span>}>
        <a className="inline-flex items-center gap-1 text-ink2 hover:text-verd" href={product.link}>
          At the shop <ExternalLink size={12} aria-hidden="true" />
        </a>
        {editor && (
          <Button busy={reading.isPending} onClick={() => reading.mutate(undefined)}>
            Read it now
          </Button>
        )}
      </Head>
      <Scroll label="Product" className="min-h-0 flex-1 p-5">
        <div className="mx-auto max-w-3xl space-y-4">
          <FormError error={reading.error ?? deciding.error} />
          {product.held && (
            <HeldPrice
              product={product}
              held={product.held}
              editor={editor}
              busy={deciding.isPending}
              onDecide={deciding.mutate}
            />
          )}
          <OfferFacts product={product} />
          <Part title="What it cost">
            <PastPrices past={past} />
          </Part>
          <Part title="Posts that show it">
            <ShowingPosts blog={blog} posts={posts} />
          </Part>
          <Part
            title="In a post written by hand"
            text="Write this into its text, where the price is to stand. Several keys in data-products with “compare” make a comparison."
          >
            <CopyText
              text={`<div data-offer="price" data-products="${product.key}"></div>`}
              label="The place"
            />
          </Part>
          {editor && <Successor blog={blog} product={product} />}
        </div>
      </Scroll>
    </>
  );
}
