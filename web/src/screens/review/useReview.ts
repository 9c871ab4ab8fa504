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

/** The days between which posts of some age are dated. */
export function daysOf(age: Age): { since: string; until: string } {
  if (age === "day") return { since: dayBefore(1), until: "" };
  if (age === "week") return { since: dayBefore(7), until: "" };
  return age === "older" ? { since: "", until: dayBefore(7) } : { since: "", until: "" };
}

interface Decided {
  date?: string;
  why?: string;
}

/** The held posts, the one that is looked at, those that are marked, and what is done with them. */
export function useReview(blog: string, filter: ReviewFilter) {
  const { age, ...narrowed } = filter;
  const posts = useQuery(postsQuery(blog, { ...EVERY_POST, ...narrowed, ...daysOf(age), state: "held" }));
  const moving = usePostMoves(blog);
  const changing = useManyMoves(blog);
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

  /** The marked posts, or the one that is looked at. */
  const wanted = marked.size ? rows.filter(({ id }) => marked.has(id)) : post ? [post] : [];

  /** Decide about them; the next post is shown at once. Gives what is known when the server has answered. */
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
      // What went wrong has been told; the list says what is there now.
    }
    await posts.refetch();
    setGone((before) => new Set([...before].filter((id) => !going.has(id))));
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
    wanted,
    choose: setChosen,
    step,
    mark,
    decide,
    pages: (posts.data?.total ?? 0) > PAGE,
  };
}

export type ReviewState = ReturnType<typeof useReview>;
