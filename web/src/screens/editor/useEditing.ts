import { useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { keys } from "@/api/keys";
import { type Edit, editPost, type Post, type PostValues, postValuesQuery, writePost } from "@/api/posts";
import { useEdited } from "@/components/editing/useEdited";
import { same } from "@/lib/editing/edits";
import { useTell } from "@/ui/Toasts";

/** The values of a post that a person edits. */
export type Values = Omit<PostValues, "version" | "edited">;

interface EditingOptions {
  blog: string;
  /** The number of the post; 0 for a new one. */
  id: number;
  saved: PostValues;
  onSaved: (post: Post) => void;
}

function versionOf({ version, edited: _, ...value }: PostValues) {
  return { number: version, value };
}

/** Returns the values that differ from the saved ones. */
export function differing(saved: Values, now: Values): Edit {
  const kept = Object.entries(now).filter(([name, value]) => !same(value, saved[name as keyof Values]));
  return Object.fromEntries(kept) as Edit;
}

/** A post being edited. */
export function useEditing({ blog, id, saved, onSaved }: EditingOptions) {
  const queries = useQueryClient();
  const tell = useTell();
  const edited = useEdited<Values, Post>({
    document: `post ${blog}/${id}`,
    saved: useMemo(() => versionOf(saved), [saved]),
    save: (values, begun, was) => {
      const changed = differing(was, values);
      return id ? editPost(blog, id, begun, changed) : writePost(blog, changed);
    },
    becomes: (post) => (id ? null : `post ${blog}/${post.id}`),
    versionOf: (post, sent) => ({ number: post.version, value: sent }),
    fetchLatest: async () =>
      versionOf(await queries.fetchQuery({ ...postValuesQuery(blog, id), staleTime: 0 })),
    refresh: [keys.posts(blog), ...(id ? [keys.post(blog, id)] : [])],
    onSaved: (post) => {
      tell(`Saved: “${post.title}”.`);
      onSaved(post);
    },
  });
  const { edit } = edited;
  return {
    ...edited,
    set: (values: Edit) => edit((before) => ({ ...before, ...values })),
    /** Whether a person's hand has set a value, which rules change no more. */
    isByHand: (name: keyof Values) =>
      saved.edited.includes(name) && same(edited.now[name], edited.saved[name]),
  };
}

export type Editing = ReturnType<typeof useEditing>;
