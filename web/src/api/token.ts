import type { Middleware } from "openapi-fetch";
import type { components } from "./schema";

type Session = components["schemas"]["SessionOut"];

/** How the server marks a request whose token is older than the sign-in (`type` of RFC 9457). */
const OLD_TOKEN = "/problems/old-token";
const SESSION = "/api/session";

let kept: Pick<Session, "csrf_token" | "user"> = { csrf_token: "", user: null };

/** Keep the token that every change must carry, and whose it is. */
export function keepToken(session: Session): void {
  kept = session;
}

const sent = new Map<string, Request>();

async function isOld(response: Response): Promise<boolean> {
  if (response.status !== 403) return false;
  const problem: unknown = await response
    .clone()
    .json()
    .catch(() => null);
  return (problem as { type?: unknown } | null)?.type === OLD_TOKEN;
}

function somebodyElse(name: string): Response {
  const detail = `${name} has signed in here in another tab, so nothing was changed. Sign in again there, or load this page again to go on as ${name}.`;
  return Response.json({ title: `You are ${name} now`, detail, faults: [] }, { status: 403 });
}

/**
 * Adds the token to every change. A sign-in in another tab makes it old: then the change is sent once more with a new
 * one, if the same person has signed in or nobody (who is asked to sign in).
 */
export const withToken: Middleware = {
  onRequest({ request, id }) {
    if (request.method === "GET") return request;
    request.headers.set("X-CSRFToken", kept.csrf_token);
    sent.set(id, request.clone());
    return request;
  },
  async onResponse({ request, response, id }) {
    const again = sent.get(id);
    sent.delete(id);
    if (!again || !(await isOld(response))) return undefined;
    const here = new URL(SESSION, request.url);
    const answer = await fetch(here);
    if (!answer.ok) return undefined;
    const session = (await answer.json()) as Session;
    const another = kept.user && session.user && session.user !== kept.user;
    if (another && request.url !== here.href) return somebodyElse(session.name as string);
    kept = { ...kept, csrf_token: session.csrf_token };
    again.headers.set("X-CSRFToken", session.csrf_token);
    return fetch(again);
  },
  onError({ id }) {
    sent.delete(id);
  },
};
