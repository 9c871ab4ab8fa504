import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { keys } from "@/api/keys";
import {
  type Asked,
  type Asks,
  addPlatformSource,
  connectionsQuery,
  type LastAsked,
  lastAskedQuery,
  type Platform,
  platformsQuery,
  readAsks,
  testPlatform,
} from "@/api/platforms";
import { readSource, type Source } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { ErrorNote } from "@/components/ErrorNote";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { useEdited } from "@/components/editing/useEdited";
import { FormError } from "@/components/FormError";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { desk } from "@/lib/blog-path";
import { type SaidRight, sentRight } from "@/screens/sources/rights";
import { SayRight } from "@/screens/sources/SayRight";
import { Button, buttonLook } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";
import { FileButton } from "@/ui/FileButton";
import { Scroll } from "@/ui/Scroll";
import { AskForm } from "./AskForm";
import { AskTestResult } from "./AskTestResult";
import { isJsonApi, namesOf, needsConnection, startOf, withOnly } from "./schema";
import { usePointing } from "./usePointing";

interface SetupProps {
  blog: string;
  platform: Platform;
  /** Parameters imported from YAML; none for a new start. */
  given: Asked | null;
  /** What the last source on this platform asks for. */
  last: LastAsked | null;
}

interface NewSource {
  title: string;
  right: SaidRight;
  asks: Asks;
}

function begun(platform: Platform, given: Asked | null, last: LastAsked | null): NewSource {
  const lines = platform.by_words && !isJsonApi(platform) ? [{ text: "", on: true }] : [];
  return {
    title: given?.title ?? "",
    right: "unsaid",
    asks: {
      connection: last?.connection ?? "",
      parameters: given?.parameters ?? last?.parameters ?? startOf(platform),
      search_words: given?.search_words ?? lines,
    },
  };
}

function Setup({ blog, platform, given, last }: SetupProps) {
  const navigate = useNavigate();
  const saved = useMemo(() => ({ number: 0, value: begun(platform, given, last) }), [platform, given, last]);
  const edited = useEdited<NewSource, Source>({
    document: `new source ${blog}/${platform.key}`,
    saved,
    save: async ({ title, right }) => {
      const made = await addPlatformSource(blog, platform.key, title, asks, sentRight(right));
      await readSource(blog, made.key);
      return made;
    },
    versionOf: (_, sent) => ({ number: 1, value: sent }),
    refresh: [keys.sources(blog)],
    onSaved: (made) => navigate(desk.source(blog, made.key)),
  });
  const { title } = edited.now;
  const connections = useQuery(connectionsQuery(blog)).data ?? [];
  const asks = withOnly(edited.now.asks, platform, connections);
  const setAsks = (next: Asks) => edited.edit((before) => ({ ...before, asks: next }));
  const pointing = usePointing(asks, setAsks);
  const [unconnected, setUnconnected] = useState(false);
  const testing = useChange((asked: Asks) => testPlatform(blog, platform.key, asked));
  const lacks = needsConnection(platform) && !asks.connection;
  /** Does something that asks the platform, where there is a connection to ask with. */
  function connected(work: () => unknown) {
    setUnconnected(lacks);
    if (!lacks) work();
  }
  const error = edited.error ?? testing.error;
  const json = isJsonApi(platform);
  return (
    <div className="flex min-h-0 flex-1">
      <EditGuard edited={edited} />
      <Scroll label="What is asked for" className="min-w-0 flex-1 p-5">
        <EditNotices edited={edited} what="the source" fields={["connection", ...namesOf(platform)]} />
        <form
          className="sheet-card space-y-4 p-4"
          onSubmit={(event) => {
            event.preventDefault();
            connected(() => testing.mutate(asks));
          }}
        >
          <Field label="Name of the source">
            <input
              className={inputLook}
              value={title}
              maxLength={300}
              placeholder={`${platform.name}: comets`}
              onChange={(event) => edited.edit((before) => ({ ...before, title: event.target.value }))}
            />
          </Field>
          {last && !given && (
            <p className="text-xs text-ink2">
              Filled in as in “{last.source}”, the last source on this platform.{" "}
              <button
                type="button"
                className="font-semibold text-verd"
                onClick={() => setAsks({ ...asks, parameters: startOf(platform) })}
              >
                Begin with the usual values
              </button>
            </p>
          )}
          <AskForm
            blog={blog}
            platform={platform}
            asks={asks}
            error={error}
            unconnected={unconnected && lacks}
            aimed={pointing.aimed}
            onAim={json ? pointing.aim : undefined}
            onChange={setAsks}
          />
          <p>
            <SayRight
              value={edited.now.right}
              onChange={(right) => edited.edit((before) => ({ ...before, right }))}
            />
          </p>
          <FormError error={testing.error} fields={["connection", ...namesOf(platform)]} />
          <div className="flex items-center gap-2">
            <Button type="submit" look="primary" busy={testing.isPending}>
              Test
            </Button>
            <Button
              look={testing.data && !testing.data.error ? "primary" : "plain"}
              busy={edited.saving.state === "sending"}
              disabled={!title.trim()}
              onClick={() => connected(edited.save)}
            >
              Make it a source
            </Button>
            <span className="text-xs text-ink3">A test asks once and keeps nothing.</span>
          </div>
        </form>
      </Scroll>
      <Scroll label="Test" className="w-[420px] shrink-0 border-l border-line bg-chalk p-4">
        {testing.isPending && <Loading what="one answer" />}
        {!testing.isPending && testing.data && (
          <AskTestResult
            test={testing.data}
            onPick={json ? pointing.pick : undefined}
            onWider={(parameters) => {
              setAsks({ ...asks, parameters });
              testing.mutate({ ...asks, parameters });
            }}
          />
        )}
        {!testing.isPending && !testing.data && (
          <p className="p-6 text-center text-ink3">
            Press Test to see what the platform gives, how many there are, and which fields are filled.
          </p>
        )}
      </Scroll>
    </div>
  );
}

/** A new platform source: platform, parameters, test, save. */
export default function NewPlatformSource() {
  const { blog = "" } = useParams();
  const [search] = useSearchParams();
  const platforms = useQuery(platformsQuery).data;
  const navigate = useNavigate();
  const [given, setGiven] = useState<Asked | null>(null);
  const reading = useChange(async (file: File) => readAsks(blog, await file.text()), {
    onDone: (asked) => {
      setGiven(asked);
      navigate(desk.newPlatformSource(blog, asked.platform));
    },
  });
  const chosen = platforms?.find(({ key }) => key === search.get("platform"));
  const last = useQuery({ ...lastAskedQuery(blog, chosen?.key ?? ""), enabled: chosen !== undefined });
  return (
    <>
      <Head
        title={chosen ? `New source: ${chosen.name}` : "New source on a platform"}
        facts={<span className="text-ink3">{chosen?.purpose ?? "choose what it is read from"}</span>}
      >
        <FileButton
          label="YAML file"
          accept=".yaml,.yml,application/yaml"
          onFile={(file) => reading.mutate(file)}
        >
          From YAML
        </FileButton>
        {chosen && (
          <Link className={buttonLook("plain")} to={desk.newPlatformSource(blog)}>
            Another platform
          </Link>
        )}
        <Link className={buttonLook("plain")} to={desk.connections(blog)}>
          Connections
        </Link>
      </Head>
      {reading.error && (
        <p role="alert" className="border-b border-line bg-madder-wash px-4 py-2 text-madder">
          {reading.error.message}
        </p>
      )}
      {!platforms && <Loading what="the platforms" />}
      {platforms && !chosen && (
        <ul className="grid min-h-0 flex-1 auto-rows-min grid-cols-2 gap-3 overflow-auto p-5 lg:grid-cols-3">
          {platforms.map((platform) => (
            <li key={platform.key}>
              <Link
                className="sheet-card block h-full p-4 hover:border-verd"
                to={desk.newPlatformSource(blog, platform.key)}
              >
                <span className="block font-semibold">{platform.name}</span>
                <span className="mt-1 block text-ink2">{platform.purpose}</span>
              </Link>
            </li>
          ))}
        </ul>
      )}
      {chosen && last.error && <ErrorNote error={last.error} onRetry={last.refetch} />}
      {chosen && last.isPending && <Loading what="what was asked last" rows={4} />}
      {chosen && last.data !== undefined && (
        <Setup
          key={`${chosen.key}-${given?.title ?? ""}`}
          blog={blog}
          platform={chosen}
          given={given?.platform === chosen.key ? given : null}
          last={last.data}
        />
      )}
    </>
  );
}
