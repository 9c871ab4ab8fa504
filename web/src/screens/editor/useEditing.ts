import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { ProblemError } from "@/api/client";
import { keys } from "@/api/keys";
import { type Edit, editPost, type Post, type PostValues, postValuesQuery, writePost } from "@/api/posts";
import { same } from "@/lib/edits";
import { useTell } from "@/ui/Toasts";
import { dropPostDraft, keepPostDraft, type PostDraft, postDraftOf } from "./post-drafts";

interface EditingOptions {
  blog: string;
  /** The number of the post; 0 for a new one. */
  id: number;
  person: string;
  saved: PostValues;
  onSaved: (post: Post) => void;
  /** Another version came from the server, so the text views reset. */
  onOutside: () => void;
}

const PAUSE = 400;
const CONFLICT = 409;

/** Returns the values that differ from the saved ones. */
export function differing(saved: PostValues, now: Edit): Edit {
  const kept = Object.entries(now).filter(([name, value]) => !same(value, saved[name as keyof PostValues]));
  return Object.fromEntries(kept) as Edit;
}

/** Edits of a post, stored as a draft until they are saved. */
export function useEditing({ blog, id, person, saved, onSaved, onOutside }: EditingOptions) {
  const queries = useQueryClient();
  const tell = useTell();
  const [edits, setEdits] = useState<Edit>({});
  const [version, setVersion] = useState(saved.version);
  // The draft of an earlier visit, until the person decides about it.
  const [found, setFound] = useState<PostDraft | null>(() => postDraftOf(person, blog, id));
  const changed = differing(saved, edits);
  const dirty = Object.keys(changed).length > 0;
  const now = { ...saved, ...edits } as PostValues;

  const latest = useRef({ changed, keeps: false, version });
  latest.current = { changed, keeps: dirty && !found, version };
  const keep = useCallback(() => {
    const { changed: values, keeps, version: from } = latest.current;
    if (keeps) keepPostDraft(person, blog, id, { version: from, values, at: new Date().toISOString() });
  }, [person, blog, id]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a pause after each change of the edits
  useEffect(() => {
    if (!dirty || found) return;
    const timer = setTimeout(keep, PAUSE);
    return () => clearTimeout(timer);
  }, [edits]);

  // Leaving before the pause ends stores the draft as well.
  useEffect(() => {
    window.addEventListener("pagehide", keep);
    return () => {
      window.removeEventListener("pagehide", keep);
      keep();
    };
  }, [keep]);

  // A version saved elsewhere is adopted unless there are edits here.
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked when another version comes
  useEffect(() => {
    if (dirty || saved.version === version) return;
    setVersion(saved.version);
    onOutside();
  }, [saved.version]);

  const saving = useMutation({
    mutationFn: () => (id ? editPost(blog, id, version, changed) : writePost(blog, changed)),
    onSuccess: async (post) => {
      dropPostDraft(person, blog, id);
      for (const queryKey of [keys.posts(blog), keys.post(blog, post.id)])
        await queries.invalidateQueries({ queryKey });
      setVersion(post.version);
      setEdits({});
      tell(`Saved: “${post.title}”.`);
      onSaved(post);
    },
  });
  const conflict =
    saving.error instanceof ProblemError && saving.error.status === CONFLICT ? saving.error : null;

  /** Continue from the other person's version, with the edits here on top. */
  async function goOnFromTheirs() {
    const fresh = await queries.fetchQuery({ ...postValuesQuery(blog, id), staleTime: 0 });
    setVersion(fresh.version);
    saving.reset();
  }

  return {
    now,
    changed,
    dirty,
    saving,
    conflict,
    found,
    set: (values: Edit) => setEdits((before) => ({ ...before, ...values })),
    save: () => saving.mutate(),
    goOnFromTheirs,
    drop: () => {
      dropPostDraft(person, blog, id);
      setEdits({});
      saving.reset();
    },
    takeUp: () => {
      if (found) setEdits(found.values);
      setFound(null);
    },
    leaveDraft: () => {
      dropPostDraft(person, blog, id);
      setFound(null);
    },
  };
}

export type Editing = ReturnType<typeof useEditing>;
