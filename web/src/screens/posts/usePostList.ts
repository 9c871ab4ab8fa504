import { useSearchParams } from "react-router";
import { EVERY_POST, type PostFilter, type PostList, type PostSort } from "@/api/posts";

const NAMES = Object.keys(EVERY_POST) as (keyof PostFilter)[];

/** Returns the list of posts that an address query describes. */
export function listOf(params: URLSearchParams): PostList {
  const filter = Object.fromEntries(NAMES.map((name) => [name, params.get(name) ?? ""]));
  return {
    ...(filter as unknown as PostFilter),
    sort: (params.get("sort") ?? "newest") as PostSort,
    offset: Number(params.get("offset") ?? 0),
  };
}

/** Returns the address query of a list of posts, without defaults. */
export function queryOf(list: PostList): string {
  const kept = Object.entries(list).filter(
    ([name, value]) => value && !(name === "sort" && value === "newest"),
  );
  return new URLSearchParams(kept.map(([name, value]) => [name, String(value)])).toString();
}

/** The filter is part of the address, so that a list can be shared and revisited. */
export function usePostList(): [PostList, (next: Partial<PostList>) => void] {
  const [params, setParams] = useSearchParams();
  const list = listOf(params);
  const set = (next: Partial<PostList>) =>
    setParams(queryOf({ ...list, offset: 0, ...next }), { replace: true });
  return [list, set];
}
