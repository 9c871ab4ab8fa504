import { useState } from "react";
import { Link } from "react-router";
import { type Edition, type EditionMode, makeEditionAnew, wantEdition } from "@/api/editions";
import { keys } from "@/api/keys";
import type { Post } from "@/api/posts";
import { useChange } from "@/api/useChange";
import { StateMark } from "@/components/StateMark";
import { desk } from "@/lib/blog-path";
import { costWords } from "@/lib/cost-words";
import { editionState } from "@/lib/edition-words";
import { Button } from "@/ui/Button";
import { Question } from "@/ui/Question";
import { useTell } from "@/ui/Toasts";
import { EditionFaults } from "./EditionFaults";

interface EditionRowProps {
  blog: string;
  post: Post;
  edition: Edition;
  editor: boolean;
}

/** A language with the edition of a post in it, and what can be done about it. */
export function EditionRow({ blog, post, edition, editor }: EditionRowProps) {
  const tell = useTell();
  const [asks, setAsks] = useState(false);
  const onFault = (fault: Error) => tell(fault.message, { tone: "bad" });
  const refresh = [keys.post(blog, post.id), keys.tasks(blog)];
  const wanting = useChange((mode: EditionMode) => wantEdition(blog, post.id, edition.language, mode), {
    refresh,
    onFault,
  });
  const anew = useChange(() => makeEditionAnew(blog, post.id, edition.language), { refresh, onFault });
  const { state, name, behind } = edition;
  const isOpen = state === "wanted" || state === "waits";
  const sends = edition.costs.length
    ? `It sends ${costWords(edition.costs)}.`
    : "It costs nothing: all is kept already.";
  return (
    <li className="border-t border-line2 py-2 first:border-t-0">
      <p className="flex flex-wrap items-center gap-2">
        <span className="font-medium">{name}</span>
        {edition.post_state && <StateMark state={edition.post_state} />}
        <span className="ml-auto flex gap-1.5">
          {edition.post && (
            <Link
              className="inline-flex min-h-6 items-center text-xs font-semibold text-verd"
              to={desk.edition(blog, post.id, edition.language)}
            >
              Beside the original
            </Link>
          )}
          {editor && state === null && edition.may && (
            <Button small busy={wanting.isPending} onClick={() => setAsks(true)}>
              Make
            </Button>
          )}
          {editor && edition.may && (state === "failed" || (state === "made" && behind > 0)) && (
            <Button small busy={anew.isPending} onClick={() => setAsks(true)}>
              {state === "failed" ? "Try again" : "Bring up to date"}
            </Button>
          )}
        </span>
      </p>
      {edition.post && (
        <Link className="block truncate hover:text-verd" to={desk.post(blog, edition.post)}>
          <bdi lang={edition.language}>{edition.title}</bdi>
        </Link>
      )}
      <p className="text-xs text-ink3">{editionState(edition)}</p>
      <EditionFaults faults={edition.faults} />
      {isOpen && (
        <p role="status" className="text-xs text-ink3">
          {state === "waits" ? "Language services are asked." : "It is its turn soon."}
        </p>
      )}
      {asks && state === null && (
        <Question
          title={`Make an edition in ${name}?`}
          text={`${sends} It is held for you, so that you can read it before it goes out.`}
          stay="Cancel"
          go="Make"
          onStay={() => setAsks(false)}
          onGo={() => {
            setAsks(false);
            wanting.mutate("hold");
          }}
        />
      )}
      {asks && state !== null && (
        <Question
          title={`Make the edition in ${name} again?`}
          text={`${sends}${edition.edited ? " What people have changed in it is replaced; its history keeps it." : ""}`}
          stay="Cancel"
          go="Make it again"
          onStay={() => setAsks(false)}
          onGo={() => {
            setAsks(false);
            anew.mutate();
          }}
        />
      )}
    </li>
  );
}
