import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import {
  EVERY_POST,
  type Move,
  type Post,
  postDecisionQuery,
  postPreviewQuery,
  postsQuery,
} from "@/api/posts";
import { PAGE } from "@/components/Paging";
import { usePostMoves } from "@/screens/posts/usePostMoves";
import { useManyMoves } from "./useManyMoves";

export type Age = "any" | "day" | "week" | "older";

export interface ReviewFilter {
  campaign: string;
  source: string;
  reason: string;
  age: Age;
  search: string;
  sort: "newest" | "oldest";
  offset: number;
}

const DAY = 24 * 3600 * 1000;
const dayBefore = (days: number) => new Date(Date.now() - days * DAY).toISOString().slice(0, 10);

/** The date range of posts of some age. */
export function daysOf(age: Age): { since: string; until: string } {
  if (age === "day") return { since: dayBefore(1), until: "" };
  if (age === "week") return { since: dayBefore(7), until: "" };
  return age === "older" ? { since: "", until: dayBefore(7) } : { since: "", until: "" };
}

interface Decided {
  date?: string;
  why?: string;
}

/** The held posts, the present one, the marked ones, and the actions on them. */
export function useReview(blog: string, filter: ReviewFilter) {
  const { age, ...narrowed } = filter;
  const posts = useQuery(postsQuery(blog, { ...EVERY_POST, ...narrowed, ...daysOf(age), state: "held" }));
  const moving = usePostMoves(blog);
  const changing = useManyMoves(blog);
  const [chosen, setChosen] = useState<number | null>(null);
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  // Decided posts disappear immediately; the server's list follows.
  const [gone, setGone] = useState<ReadonlySet<number>>(new Set());
  const rows = (posts.data?.rows ?? []).filter(({ id }) => !gone.has(id));
  const found = rows.findIndex(({ id }) => id === chosen);
  const place = Math.max(found, 0);
  const post: Post | undefined = rows[place];
  const next = rows[place + 1];
  const preview = useQuery({ ...postPreviewQuery(blog, post?.id ?? 0), enabled: post !== undefined });
  // An edition has no decision of its own.
  const decision = useQuery({
    ...postDecisionQuery(blog, post?.id ?? 0),
    enabled: Boolean(post?.campaign_slug),
  });
  // Prefetch the next post.
  useQuery({ ...postPreviewQuery(blog, next?.id ?? 0), enabled: next !== undefined });
  useQuery({ ...postDecisionQuery(blog, next?.id ?? 0), enabled: Boolean(next?.campaign_slug) });

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

  /** The marked posts, or the present one. */
  const wanted = marked.size ? rows.filter(({ id }) => marked.has(id)) : post ? [post] : [];

  /** Decide about them and show the next post. Resolves with the server's answer. */
  async function decide(to: Move, { date, why }: Decided = {}) {
    const able = wanted.filter(({ moves }) => moves.includes(to));
    if (!able.length) return;
    const going = new Set(able.map(({ id }) => id));
    const stays = rows.slice(place).find(({ id }) => !going.has(id)) ?? rows.find(({ id }) => !going.has(id));
    setChosen(stays?.id ?? null);
    setGone((before) => new Set([...before, ...going]));
    setMarked(new Set());
    const given = { ...(date ? { date } : {}), ...(why ? { why } : {}) };
    const [first] = able;
    try {
      if (able.length === 1 && first) await moving.mutateAsync({ post: first, to, ...given });
      else if (to !== "binned")
        await changing.mutateAsync({
          selection: { ids: [...going] },
          bulk: { action: "moved", to, seen: "held", ...given },
        });
    } catch {
      // The error has been shown; refetch the list.
    }
    await posts.refetch();
    setGone((before) => new Set([...before].filter((id) => !going.has(id))));
  }

  return {
    posts,
    rows,
    total:
      (posts.data?.total ?? 0) -
      [...gone].filter((id) => posts.data?.rows.some((post) => post.id === id)).length,
    post,
    preview,
    decision,
    marked,
    wanted,
    choose: setChosen,
    step,
    mark,
    decide,
    pages: (posts.data?.total ?? 0) > PAGE,
  };
}

export type ReviewState = ReturnType<typeof useReview>;
