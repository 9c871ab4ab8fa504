import { useMutation, useQueryClient } from "@tanstack/react-query";
import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { sessionQuery } from "@/api/session";
import { answering, screenAt } from "@/testing/server";
import { useTasks } from "./useTasks";

const TASKS = "GET /api/blogs/{blog}/tasks";

function Changing({ leaving }: { leaving: boolean }) {
  const queries = useQueryClient();
  const change = useMutation({
    mutationFn: () => Promise.resolve("changed"),
    onSuccess: () => {
      const session = {
        name: leaving ? "" : "Mira",
        user: leaving ? "" : "mira",
        csrf_token: "t",
        version: "1",
      };
      queries.setQueryData(sessionQuery.queryKey, session);
    },
  });
  useTasks("b");
  return (
    <button type="button" onClick={() => change.mutate()}>
      {change.data ?? "change"}
    </button>
  );
}

async function askedAfterAChange(leaving: boolean): Promise<number> {
  const calls = answering({ [TASKS]: [] });
  const { user } = screenAt("/", "*", <Changing leaving={leaving} />);
  const asked = () => calls.filter((call) => call.what === TASKS).length;
  await waitFor(() => expect(asked()).toBe(1));
  await user.click(screen.getByRole("button"));
  await screen.findByText("changed");
  return asked();
}

describe("tasks under way", () => {
  it("are asked again after a change", async () => {
    expect(await askedAfterAChange(false)).toBe(2);
  });

  it("are not asked again after signing out", async () => {
    expect(await askedAfterAChange(true)).toBe(1);
  });
});
