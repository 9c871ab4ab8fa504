import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Post, type PostState, postDecisionQuery, postPreviewQuery, postsQuery } from "@/api/posts";
import { PAGE } from "@/components/Paging";
import { usePostMoves } from "@/screens/posts/usePostMoves";

export interface ReviewFilter {
  campaign: string;
  source: string;
  search: string;
  sort: "newest" | "oldest";
  offset: number;
}

/** The held posts, the one that is looked at, those that are marked, and what is done with them. */
export function useReview(blog: string, filter: ReviewFilter) {
  const posts = useQuery(postsQuery(blog, { ...filter, state: "held" }));
  const moving = usePostMoves(blog);
  const [chosen, setChosen] = useState<number | null>(null);
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  // What was decided goes at once; the list follows from the server.
  const [gone, setGone] = useState<ReadonlySet<number>>(new Set());
  const rows = (posts.data?.rows ?? []).filter(({ id }) => !gone.has(id));
  const found = rows.findIndex(({ id }) => id === chosen);
  const place = Math.max(found, 0);
  const post: Post | undefined = rows[place];
  const next = rows[place + 1];
  const preview = useQuery({ ...postPreviewQuery(blog, post?.id ?? 0), enabled: post !== undefined });
  const decision = useQuery({ ...postDecisionQuery(blog, post?.id ?? 0), enabled: post !== undefined });
  // The next one is there before it is asked for.
  useQuery({ ...postPreviewQuery(blog, next?.id ?? 0), enabled: next !== undefined });
  useQuery({ ...postDecisionQuery(blog, next?.id ?? 0), enabled: next !== undefined });

  function step(by: number) {
    const other = rows[Math.min(Math.max(place + by, 0), rows.length - 1)];
    if (other) setChosen(other.id);
  }

  function mark() {
    if (!post) return;
    setMarked((before) => {
      const after = new Set(before);
      if (!after.delete(post.id)) after.add(post.id);
      return after;
    });
    step(1);
  }

  /** Decide about the marked posts, or about the one that is looked at; the next one is shown at once. */
  function decide(to: PostState) {
    const wanted = marked.size ? rows.filter(({ id }) => marked.has(id)) : post ? [post] : [];
    const able = wanted.filter(({ moves }) => moves.includes(to));
    if (!able.length) return;
    const going = new Set(able.map(({ id }) => id));
    const stays = rows.slice(place).find(({ id }) => !going.has(id)) ?? rows.find(({ id }) => !going.has(id));
    setChosen(stays?.id ?? null);
    setGone((before) => new Set([...before, ...going]));
    setMarked(new Set());
    for (const one of able)
      moving
        .mutateAsync({ post: one, to })
        // What went wrong has been told; the list says what is there now.
        .catch(() => undefined)
        .then(() => posts.refetch())
        .then(() => setGone((before) => new Set([...before].filter((id) => id !== one.id))));
  }

  return {
    posts,
    rows,
    total:
      (posts.data?.total ?? 0) -
      [...gone].filter((id) => posts.data?.rows.some((one) => one.id === id)).length,
    post,
    preview,
    decision,
    marked,
    choose: setChosen,
    step,
    mark,
    decide,
    pages: (posts.data?.total ?? 0) > PAGE,
  };
}

export type ReviewState = ReturnType<typeof useReview>;
