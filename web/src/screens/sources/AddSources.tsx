import { useState } from "react";
import { Link, useParams } from "react-router";
import { type GivenList, previewFeeds } from "@/api/feed-lists";
import { type Checked, checkAddresses } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { ErrorNote } from "@/components/ErrorNote";
import { FormError } from "@/components/FormError";
import { Head } from "@/components/Head";
import { toBase64 } from "@/lib/base64";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";
import { Button, buttonLook } from "@/ui/Button";
import { FileButton } from "@/ui/FileButton";
import { CheckedCard } from "./CheckedCard";
import { FillPattern } from "./FillPattern";
import { type FoundList, ListPreview } from "./ListPreview";
import type { SaidRight } from "./rights";

const MOST = 30;
/** In bytes. */
const LARGEST_LIST = 4_000_000;
/** From so many addresses on, all can be brought in at once. */
const MANY = 5;

interface Tried {
  address: string;
  result: Checked | null;
  error: Error | null;
}

/** The addresses in a pasted text, separated by lines, spaces or commas. */
function addressesIn(text: string): string[] {
  return [...new Set(text.split(/[\s,]+/).filter(Boolean))];
}

function readWords(number: number): string {
  if (number > MOST) return `Read the first ${MOST} of ${number} addresses`;
  return number > 1 ? `Read ${plural(number, "address", "addresses")}` : "Read it";
}

export default function AddSources() {
  const { blog = "" } = useParams();
  const [text, setText] = useState("");
  const [tried, setTried] = useState<Tried[]>([]);
  const [added, setAdded] = useState<string[]>([]);
  const [list, setList] = useState<FoundList | null>(null);
  const [filling, setFilling] = useState(false);
  // The next feed begins with the answer that the last one got.
  const [right, setRight] = useState<SaidRight>("unsaid");
  const addresses = addressesIn(text);

  async function tryOne(address: string): Promise<void> {
    const keep = (next: Tried) =>
      setTried((before) => before.map((one) => (one.address === address ? next : one)));
    try {
      const [result] = await checkAddresses(blog, [address]);
      keep({ address, result: result ?? null, error: null });
    } catch (error) {
      keep({ address, result: null, error: error instanceof Error ? error : new Error(String(error)) });
    }
  }

  const looking = useChange(
    async ({ name, given }: { name: string; given: () => Promise<GivenList> }) => {
      const read = await given();
      return { name, given: read, preview: await previewFeeds(blog, read) };
    },
    { onDone: setList },
  );

  function lookAtFile(file: File) {
    const given = async () => {
      if (file.size > LARGEST_LIST) throw new Error(`${file.name} is larger than 4 MB. Give a shorter list.`);
      return { content: toBase64(new Uint8Array(await file.arrayBuffer())) };
    };
    looking.mutate({ name: file.name, given });
  }

  function lookAtAll() {
    looking.mutate({
      name: plural(addresses.length, "address", "addresses"),
      given: async () => ({ addresses }),
    });
  }

  const trying = useChange(async (wanted: string[]) => {
    setTried((before) => [
      ...wanted.map((address) => ({ address, result: null, error: null })),
      ...before.filter((one) => !wanted.includes(one.address)),
    ]);
    await Promise.all(wanted.map(tryOne));
  });

  return (
    <>
      <Head
        title="Add feeds"
        facts={<span className="text-ink3">each is read and shown before it is kept</span>}
      >
        <Link className={buttonLook("plain")} to={desk.feedLists(blog)}>
          Earlier lists
        </Link>
        <Link className={buttonLook("plain")} to={desk.sources(blog)}>
          To the sources
        </Link>
      </Head>
      <div className="min-h-0 flex-1 overflow-auto p-5">
        <form
          className="sheet-card p-4"
          onSubmit={(event) => {
            event.preventDefault();
            if (!addresses.length) return;
            // Addresses beyond the limit stay in the field for the next time.
            setText(addresses.slice(MOST).join("\n"));
            trying.mutate(addresses.slice(0, MOST));
          }}
        >
          <label className="block">
            <span className="font-semibold">Addresses of feeds or sites</span>
            <textarea
              rows={3}
              value={text}
              spellCheck={false}
              placeholder={"https://club.example/feed.xml\nanother.example"}
              onChange={(event) => setText(event.target.value)}
              className="mt-1 w-full rounded-[7px] border border-line bg-chalk px-2.5 py-1.5 font-mono text-xs"
            />
          </label>
          <div className="mt-2 flex items-center gap-3">
            <Button type="submit" look="primary" busy={trying.isPending} disabled={!addresses.length}>
              {readWords(addresses.length)}
            </Button>
            {addresses.length >= MANY && (
              <Button small busy={looking.isPending} onClick={lookAtAll}>
                Bring in all {addresses.length}
              </Button>
            )}
            <FileButton label="OPML file" accept=".opml,.xml,text/x-opml,text/xml" onFile={lookAtFile}>
              From an OPML file
            </FileButton>
            <Link className={buttonLook("plain", true)} to={desk.newReader(blog)}>
              Read a site without a feed
            </Link>
            <Button small onClick={() => setFilling(true)}>
              Fill a pattern
            </Button>
            <Link className={buttonLook("plain", true)} to={desk.newPlatformSource(blog)}>
              Ask a platform
            </Link>
            <span className="text-xs text-ink3">
              RSS, Atom or JSON Feed. The address of a site leads to the feeds it names. {MOST} are looked at
              in one go; any number can be brought in.
            </span>
          </div>
          <FormError error={looking.error} />
        </form>
        {list && <ListPreview key={list.name} blog={blog} list={list} onClose={() => setList(null)} />}
        {filling && (
          <FillPattern
            blog={blog}
            onClose={() => setFilling(false)}
            onFill={(more) => {
              setText((before) => [before.trim(), ...more].filter(Boolean).join("\n"));
              setFilling(false);
            }}
          />
        )}
        {added.length > 1 && (
          <p className="mt-4 flex items-center gap-3 rounded-[10px] border border-verd/40 bg-verd-wash px-4 py-2.5 font-medium text-verd">
            {plural(added.length, "feed")} added.
            <Link className={buttonLook("primary", true)} to={desk.newCampaign(blog, ...added)}>
              New campaign on all {added.length}
            </Link>
          </p>
        )}
        <ul aria-label="Results" className="mt-4 space-y-3">
          {tried.map((one) => (
            <li key={one.address}>
              {one.error ? (
                <ErrorNote error={one.error} onRetry={() => trying.mutate([one.address])} />
              ) : (
                <CheckedCard
                  blog={blog}
                  address={one.address}
                  checked={one.result}
                  onFollow={(url) => trying.mutate([url])}
                  right={right}
                  onRight={setRight}
                  onAdded={(key) => setAdded((before) => [...before, key])}
                />
              )}
            </li>
          ))}
        </ul>
      </div>
    </>
  );
}
