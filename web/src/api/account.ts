import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";
import { remember, type Session } from "./session";

export type Account = Schemas["AccountOut"];
export type Token = Schemas["TokenOut"];
export type SecondFactor = Schemas["SecondFactorOut"];

export const accountQuery = queryOptions({
  queryKey: keys.account(),
  queryFn: () => unwrap(client.GET("/api/account")),
});

export function changeAccount(body: Schemas["AccountIn"]): Promise<Account> {
  return unwrap(client.PUT("/api/account", { body }));
}

export async function changePassword(body: Schemas["NewPasswordIn"]): Promise<Session> {
  return remember(await unwrap(client.PUT("/api/account/password", { body })));
}

export async function endOtherSessions(): Promise<Session> {
  return remember(await unwrap(client.DELETE("/api/account/other-sessions")));
}

export function beginSecondFactor(): Promise<SecondFactor> {
  return unwrap(client.POST("/api/account/second-factor"));
}

export async function confirmSecondFactor(body: Schemas["SecondFactorIn"]): Promise<string[]> {
  return (await unwrap(client.PUT("/api/account/second-factor", { body }))).codes;
}

export function switchOffSecondFactor(password: string): Promise<Account> {
  return unwrap(client.POST("/api/account/second-factor/off", { body: { password } }));
}

export const tokensQuery = queryOptions({
  queryKey: keys.tokens(),
  queryFn: () => unwrap(client.GET("/api/account/tokens")),
});

export function makeToken(body: Schemas["TokenIn"]): Promise<Schemas["MadeTokenOut"]> {
  return unwrap(client.POST("/api/account/tokens", { body }));
}

export async function endToken(number: number): Promise<void> {
  await unwrap(client.DELETE("/api/account/tokens/{number}", { params: { path: { number } } }));
}

export async function askForReset(email: string): Promise<void> {
  await unwrap(client.POST("/api/password-resets", { body: { email } }));
}

export async function resetPassword(body: Schemas["ResetIn"]): Promise<void> {
  remember(await unwrap(client.PUT("/api/password-resets", { body })));
}
