import { useEffect } from "react";
import { useBlocker } from "react-router";
import { Question } from "@/ui/Question";

/** Holds a person back, and asks whether to leave. */
export function LeaveQuestion({ text }: { text: string }) {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, []);
  if (blocker.state !== "blocked") return null;
  return (
    <Question
      title="Leave with edits that are not saved?"
      text={text}
      stay="Stay"
      go="Leave"
      onStay={() => blocker.reset()}
      onGo={() => blocker.proceed()}
    />
  );
}
