import { useSearchParams } from "react-router";
import { EVERY_POST, type PostFilter, type PostList, type PostSort } from "@/api/posts";

const NAMES = Object.keys(EVERY_POST) as (keyof PostFilter)[];

/** Give the list of posts that the query of an address names. */
export function listOf(params: URLSearchParams): PostList {
  const filter = Object.fromEntries(NAMES.map((name) => [name, params.get(name) ?? ""]));
  return {
    ...(filter as unknown as PostFilter),
    sort: (params.get("sort") ?? "newest") as PostSort,
    offset: Number(params.get("offset") ?? 0),
  };
}

/** Give the query that names a list of posts: without what is as usual. */
export function queryOf(list: PostList): string {
  const kept = Object.entries(list).filter(
    ([name, value]) => value && !(name === "sort" && value === "newest"),
  );
  return new URLSearchParams(kept.map(([name, value]) => [name, String(value)])).toString();
}

/** The filter lives in the address, so that a list can be shared and gone back to. */
export function usePostList(): [PostList, (next: Partial<PostList>) => void] {
  const [params, setParams] = useSearchParams();
  const list = listOf(params);
  const set = (next: Partial<PostList>) =>
    setParams(queryOf({ ...list, offset: 0, ...next }), { replace: true });
  return [list, set];
}
