import { useEffect, useState } from "react";

/** Milliseconds without a change, after which a value counts as settled. */
const PAUSE = 300;

/** A typed value after the person has paused. */
export function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), PAUSE);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}
