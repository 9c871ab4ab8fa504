import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { may } from "@/lib/roles";
import { blogsQuery } from "./blogs";
import type { Role } from "./people";

/** Returns a function that tests whether the person has at least a role on the present blog. */
export function useMay(): (least: Role) => boolean {
  const { blog } = useParams();
  const role = useQuery(blogsQuery).data?.find(({ slug }) => slug === blog)?.role;
  return (least) => may(role, least);
}
