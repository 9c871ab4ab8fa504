import type { Push } from "@/api/sources";
import { moment } from "./format";

/** Returns whether a hub pushes news, in words; empty where the feed names no hub. */
export function pushWords(push: Push): string {
  if (!push.hub) return "";
  if (!push.address_is_set)
    return "Its feed names a hub that could push what is new. For that the server needs GLYPTARCH_PUBLIC_ADDRESS.";
  if (push.state === "verified") {
    const last = push.pushed_at ? `Last push ${moment(push.pushed_at)}.` : "Nothing was pushed yet.";
    const until = push.lease_ends_at ? `, agreed until ${moment(push.lease_ends_at)}` : "";
    return `A hub pushes what is new${until}. ${last}${badWords(push)}`;
  }
  if (push.state === "refused") return `Its hub does not push: ${push.failure} It is read by polling.`;
  return "Its hub has been asked to push what is new, and has not agreed yet. It is read by polling.";
}

function badWords(push: Push): string {
  return push.bad_pushes ? ` ${push.bad_pushes} pushes had a wrong signature and were thrown away.` : "";
}
