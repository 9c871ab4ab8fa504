import { useEffect, useState } from "react";

/** Milliseconds without a change, after which a value counts as settled. */
const PAUSE = 300;

/** A value that is being typed, once the person has paused. */
export function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), PAUSE);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}
