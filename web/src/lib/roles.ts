import type { Role } from "@/api/people";

/** The roles, least first; each includes those before it. */
export const ROLES: readonly { value: Role; label: string; may: string }[] = [
  { value: "viewer", label: "Viewer", may: "sees everything and tries rules in proofs" },
  { value: "reviewer", label: "Reviewer", may: "decides about posts and comments" },
  { value: "editor", label: "Editor", may: "writes rules, chooses sources and runs campaigns" },
  { value: "owner", label: "Owner", may: "also sets the blog and who works on it" },
];

/** Whether a role includes another one; without a role nothing is allowed. */
export function may(role: Role | undefined, least: Role): boolean {
  const rank = (one: Role) => ROLES.findIndex(({ value }) => value === one);
  return role !== undefined && rank(role) >= rank(least);
}

export function roleName(role: Role): string {
  return ROLES.find(({ value }) => value === role)?.label ?? role;
}
